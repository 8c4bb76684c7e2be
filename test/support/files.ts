/** Files in memory as the core's commands see them. */
import { FilesInProgress } from '../../src/core/change/files.ts';
import { bytesOf, type Files } from './site.ts';

export function filesOf(content: Files): FilesInProgress {
  return new FilesInProgress(Object.keys(content), (path) => bytesOf(content[path] ?? ''));
}

export const textOf = (bytes: Uint8Array) => new TextDecoder('utf-8', { ignoreBOM: true }).decode(bytes);

/** The text of each file, by path. */
export function contentOf(files: FilesInProgress): Record<string, string> {
  return Object.fromEntries(files.paths().map((path) => [path, textOf(files.read(path))]));
}
