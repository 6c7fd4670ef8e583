/** Types of the set-up helpers, for the tests that use them. */
declare module "*/lib/app.mjs" {
  export function prepare(url: string, options?: { demo?: boolean }): Promise<void>;
  export function serve(
    url: string,
    port: number,
    env?: Record<string, string>,
  ): { ready: Promise<unknown>; ended: Promise<unknown>; pid: number; stop(): Promise<void> };
  export const serveWorker: (
    url: string,
    env?: Record<string, string>,
  ) => { ready: Promise<unknown>; ended: Promise<unknown>; pid: number; stop(): Promise<void> };
}
declare module "*/lib/dump.mjs" {
  export function dumpTo(url: string, file: string): Promise<string>;
  export function restoreInto(url: string, file: string): Promise<string>;
  export function makeBeside(url: string, name: string): Promise<string>;
  export function dropIt(url: string): Promise<string>;
  export function isEmptyDatabase(url: string): Promise<boolean>;
}
declare module "*/lib/packages.mjs" {
  export const root: string;
  export const BROWSER: string;
}
declare module "*/lib/postgres.mjs" {
  export interface Cluster {
    ensure(database: string): string;
    url(database: string): string;
    alive(): boolean;
    pid(): number;
    halt(): void;
    start(): Promise<void>;
    stop(): void;
  }
  export function freePort(): Promise<number>;
  export function servingUrl(url: string): string;
  export function openCluster(folder: string, options?: { throwaway?: boolean }): Promise<Cluster>;
}
declare module "*/lib/supervise.mjs" {
  import type { Cluster } from "*/lib/postgres.mjs";
  export function supervise(what: { url: string; port: number; env?: Record<string, string>; cluster?: Cluster }): {
    ready: Promise<void>;
    ended: Promise<{ words: string; code: number }>;
    readonly pid: number | undefined;
    stop(): Promise<void>;
  };
}
