/** Words that nobody guesses, and that nobody finds out by how long a comparison takes. */
import { randomBytes, timingSafeEqual } from 'node:crypto';

/** Bytes of chance in a word. */
const CHANCE = 18;

export class Secret {
  readonly word = randomBytes(CHANCE).toString('base64url');

  isKnown(given: string): boolean {
    const [one, own] = [Buffer.from(given), Buffer.from(this.word)];
    return one.length === own.length && timingSafeEqual(one, own);
  }
}
