/** Files in memory as the core's commands see them. */
import { ChangedFiles } from '../../src/core/change/files.ts';
import { bytesOf, type Files } from './site.ts';

export function filesOf(content: Files): ChangedFiles {
  return new ChangedFiles(Object.keys(content), (path) => bytesOf(content[path] ?? ''));
}

export const textOf = (bytes: Uint8Array) => new TextDecoder('utf-8', { ignoreBOM: true }).decode(bytes);

/** The text of each file, by path. */
export function contentOf(files: ChangedFiles): Record<string, string> {
  return Object.fromEntries(files.paths().map((path) => [path, textOf(files.read(path))]));
}
