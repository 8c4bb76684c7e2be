/** Writes all of a text or of bytes to something that is open, however little of it is taken at a time. */
import { writeSync } from './fs.ts';
import { pause } from './pause.ts';

/** Milliseconds between two tries where a reader is slow. */
const PAUSE = 5;

/** Throws the system's error where not all of it can be written. */
export function writeAll(handle: number, content: string | Uint8Array): void {
  const bytes = typeof content === 'string' ? Buffer.from(content) : content;
  for (let at = 0; at < bytes.length; ) {
    try {
      at += writeSync(handle, bytes, at);
    } catch (error) {
      // A pipe that does not block is full for now.
      if ((error as NodeJS.ErrnoException).code !== 'EAGAIN') throw error;
      pause(PAUSE);
    }
  }
}
