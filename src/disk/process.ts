/** Which process of which machine this is, told so that another one can say whether it still runs. */

import { randomBytes } from 'node:crypto';
import { hostname } from 'node:os';
import { asWritten } from './disk-path.ts';
import { readFileSync } from './fs.ts';

export interface Owner {
  readonly process: number;
  readonly host: string;
  readonly since: string;
  /** When the process and its system started, in their own counting; empty where the system does not say. */
  readonly started: string;
  readonly boot: string;
}

export function thisProcess(): Owner {
  return {
    process: process.pid,
    host: hostname(),
    since: new Date().toISOString(),
    started: startOf(process.pid),
    boot: bootOf(),
  };
}

/** False where the process is sure to be gone. Of another machine nothing is known. */
export function mayBeAlive({ process: id, host, started, boot }: Owner): boolean {
  if (host !== hostname()) return true;
  if (boot !== bootOf()) return false;
  return isRunning(id) && startOf(id) === started;
}

/** A name that no other process ever gives to anything: `4711-90211-5f3a…`. */
export function uniqueName(): string {
  return `${process.pid}-${startOf(process.pid) || '0'}-${randomBytes(6).toString('hex')}`;
}

/** True for what {@link uniqueName} may have given. */
export function isUniqueName(name: string): boolean {
  return /^\d+-\d+-[0-9a-f]{12}$/.test(name);
}

/** False where the process of this machine that made a {@link uniqueName} is gone. */
export function isMakerAlive(name: string): boolean {
  const [id, started] = name.split('-');
  return isRunning(Number(id)) && (startOf(Number(id)) || '0') === started;
}

function isRunning(id: number): boolean {
  try {
    process.kill(id, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/** The start of a process in ticks since its system's (proc(5), /proc/pid/stat, field 22). */
function startOf(id: number): string {
  const text = readOrNothing(`/proc/${id}/stat`);
  // The name before may hold spaces and brackets.
  return text.slice(text.lastIndexOf(')') + 2).split(' ')[19] ?? '';
}

function bootOf(): string {
  return readOrNothing('/proc/sys/kernel/random/boot_id').trim();
}

function readOrNothing(path: string): string {
  if (process.platform === 'win32') return '';
  try {
    return readFileSync(asWritten(path)).toString();
  } catch {
    return '';
  }
}
