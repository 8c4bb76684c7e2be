/** What the host of a site answered when it was asked, as rules look at it. */

/** How what a host serves differs from what was packed. */
export type Difference =
  /** The same text in another encoding, with other line ends, with a mark in front, or with other white space. */
  | { readonly is: 'encoding'; readonly encoding: string }
  | { readonly is: 'line-ends' | 'mark' | 'white-space' }
  /** All of it, and something besides: how many characters, and how it begins. */
  | { readonly is: 'added'; readonly amount: number; readonly start: string }
  /** Its start, so many bytes of so many. */
  | { readonly is: 'cut'; readonly bytes: number; readonly of: number }
  /** A page in the place of what is none. */
  | { readonly is: 'page' }
  | { readonly is: 'other'; readonly bytes: number; readonly of: number };

/** What came of one address. */
export interface HostAnswer {
  /** Why nothing came, in a few words; null where something did. */
  readonly failure: string | null;
  /** The HTTP status; 0 where nothing came. */
  readonly status: number;
  /** As the host wrote it; empty where it did not. */
  readonly type: string;
  /** Where it sent on to in the end; null where it did not. */
  readonly movedTo: string | null;
  readonly asksToLogIn: boolean;
  /** It is what the host answers for any name. */
  readonly isAnything: boolean;
  /** Null where it is what was packed, byte for byte. */
  readonly difference: Difference | null;
}

/** One thing that a host was asked. */
export interface Visit extends HostAnswer {
  /**
   * For a file that was packed; for one that is not to be served; for a name that cannot exist; for a file in other letters; for
   * the entry page without encryption, and by the host's other name.
   */
  readonly asks: 'file' | 'private' | 'invented' | 'letter-case' | 'plain-http' | 'other-name';
  /** Site path. */
  readonly file: string;
  readonly address: string;
  /** The encoding that a text is written in, where a host may say another one; null for what is no text, or plain ASCII. */
  readonly encoding: string | null;
}

/** Whether a host gives a body for what it was asked (RFC 9110 15.3, successful). */
export function isServed({ status }: Pick<HostAnswer, 'status'>): boolean {
  return status >= 200 && status < 300;
}
