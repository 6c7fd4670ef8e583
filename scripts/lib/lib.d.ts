/** Types of the set-up helpers, for the tests that use them. */
declare module "*/lib/app.mjs" {
  export function prepare(url: string, options?: { demo?: boolean }): Promise<void>;
  export function serve(
    url: string,
    port: number,
    env?: Record<string, string>,
  ): { ready: Promise<unknown>; ended: Promise<unknown>; stop(): Promise<void> };
}
declare module "*/lib/packages.mjs" {
  export const root: string;
}
declare module "*/lib/postgres.mjs" {
  export function freePort(): Promise<number>;
  export function openCluster(
    folder: string,
    options?: { throwaway?: boolean },
  ): Promise<{ ensure(database: string): string; halt(): void; start(): Promise<void>; stop(): void }>;
}
