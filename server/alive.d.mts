import type { ChildProcess } from "node:child_process";

export function sayAlive(): void;
export function hearAlive(child: ChildProcess, about: { silence: number; onHung: () => void; every?: number }): void;
