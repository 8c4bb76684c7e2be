/** The preview for other machines of the network: an address with a word that nobody guesses, and a picture of it. */
import type { IncomingMessage, ServerResponse } from 'node:http';
import { networkInterfaces } from 'node:os';
import { renderUnicodeCompact } from 'uqr';
import { fail } from '../core/errors.ts';
import { say } from './loopback.ts';
import { OWN } from './messages.ts';
import { Secret } from './secret.ts';

const COOKIE = 'cravel-preview';

export class Network {
  /** Every interface of this machine. */
  readonly host = '0.0.0.0';
  readonly #secret = new Secret();
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
    return `http://${this.names[0]}:${port}${OWN}/${this.#secret.word}`;
  }

  /** Lines of one width: full blocks are light, spaces dark. */
  picture(address: string): readonly string[] {
    return renderUnicodeCompact(address, { border: 2 }).split('\n');
  }

  /** Whoever came by the address that was printed may come in from then on. Answers others. */
  readonly guard = ({ url = '', headers }: IncomingMessage, response: ServerResponse | null): boolean => {
    const [, given] = new RegExp(`(?:^|;\\s*)${COOKIE}=([^;]*)`).exec(headers.cookie ?? '') ?? [];
    if (given !== undefined && this.#secret.isKnown(given)) return true;
    if (response === null) return false;
    const word = url.startsWith(`${OWN}/`) ? url.slice(OWN.length + 1) : '';
    if (this.#secret.isKnown(word))
      response
        .writeHead(303, {
          location: this.#folder,
          'set-cookie': `${COOKIE}=${this.#secret.word}; Path=/; HttpOnly; SameSite=Strict`,
          'cache-control': 'no-store',
          'referrer-policy': 'no-referrer',
        })
        .end();
    else say(response, 403, 'Open the address that the preview printed, all of it.');
    return false;
  };
}
