/** The preview for other machines of the network: an address with a word that nobody guesses, and a picture of it. */
import { randomBytes, timingSafeEqual } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { networkInterfaces } from 'node:os';
import { renderUnicodeCompact } from 'uqr';
import { fail } from '../core/errors.ts';
import { say } from './loopback.ts';
import { OWN } from './messages.ts';

const COOKIE = 'cravel-preview';

export class Network {
  /** Every interface of this machine. */
  readonly host = '0.0.0.0';
  readonly #word = randomBytes(12).toString('base64url');
  #folder = '/';

  constructor(readonly names: readonly string[]) {}

  /** Throws a `CravelError` where this machine is in no network. */
  static ofThisMachine(): Network {
    const all = Object.values(networkInterfaces()).flatMap((one) => one ?? []);
    const names = all.flatMap(({ family, internal, address }) =>
      family === 'IPv4' && !internal ? address : [],
    );
    if (names.length === 0) throw fail('no-network');
    return new Network(names);
  }

  addressAt(port: number, folder: string): string {
    this.#folder = folder;
    return `http://${this.names[0]}:${port}${OWN}/${this.#word}`;
  }

  /** Lines of one width: full blocks are light, spaces dark. */
  picture(address: string): readonly string[] {
    return renderUnicodeCompact(address, { border: 2 }).split('\n');
  }

  /** Whoever came by the address that was printed may come in from then on. Answers others. */
  readonly guard = ({ url = '', headers }: IncomingMessage, response: ServerResponse | null): boolean => {
    const [, given] = new RegExp(`(?:^|;\\s*)${COOKIE}=([^;]*)`).exec(headers.cookie ?? '') ?? [];
    if (given !== undefined && this.#knows(given)) return true;
    if (response === null) return false;
    const word = url.startsWith(`${OWN}/`) ? url.slice(OWN.length + 1) : '';
    if (this.#knows(word))
      response
        .writeHead(303, {
          location: this.#folder,
          'set-cookie': `${COOKIE}=${this.#word}; Path=/; HttpOnly; SameSite=Strict`,
          'cache-control': 'no-store',
          'referrer-policy': 'no-referrer',
        })
        .end();
    else say(response, 403, 'Open the address that the preview printed, all of it.');
    return false;
  };

  #knows(word: string): boolean {
    const [given, own] = [Buffer.from(word), Buffer.from(this.#word)];
    return given.length === own.length && timingSafeEqual(given, own);
  }
}
