/** Says in plain words why a request got no answer. */

/** Codes of errors that say something of this machine's network, not of the host. */
const ownTrouble: ReadonlySet<string> = new Set([
  'EAI_AGAIN',
  'ENETUNREACH',
  'ENETDOWN',
  'EHOSTUNREACH',
  'EACCES',
  'EPERM',
  'UNABLE_TO_VERIFY_LEAF_SIGNATURE',
  'UNABLE_TO_GET_ISSUER_CERT_LOCALLY',
  'UNABLE_TO_GET_ISSUER_CERT',
  'SELF_SIGNED_CERT_IN_CHAIN',
  'CERT_NOT_YET_VALID',
]);

/** What codes of failed requests say, in plain words. */
const answers: Readonly<Record<string, string>> = {
  ENOTFOUND: 'there is no such host',
  EAI_AGAIN: 'there is no network',
  ENETUNREACH: 'there is no way to the host from here',
  EHOSTUNREACH: 'there is no way to the host from here',
  ENETDOWN: 'there is no network',
  ECONNREFUSED: 'the host does not answer',
  ETIMEDOUT: 'the host does not answer',
  UND_ERR_CONNECT_TIMEOUT: 'the host does not answer',
  ECONNRESET: 'the host breaks off without an answer',
  EPIPE: 'the host breaks off without an answer',
  UND_ERR_SOCKET: 'the host breaks off without an answer',
  UND_ERR_RES_CONTENT_LENGTH_MISMATCH: 'the host breaks off before its answer is whole',
  UND_ERR_RESPONSE_STATUS_CODE: 'the host answers with what is not HTTP',
  UND_ERR_HEADERS_OVERFLOW: 'the host answers with more header fields than can be taken',
  CERT_HAS_EXPIRED: "the host's certificate has expired",
  CERT_NOT_YET_VALID: "the host's certificate is not valid yet, by this machine's clock",
  DEPTH_ZERO_SELF_SIGNED_CERT: "the host's certificate is signed by nobody but itself",
  SELF_SIGNED_CERT_IN_CHAIN: "the host's certificate is signed by somebody whom this machine does not know",
  UNABLE_TO_VERIFY_LEAF_SIGNATURE:
    "the host's certificate is signed by somebody whom this machine does not know",
  UNABLE_TO_GET_ISSUER_CERT_LOCALLY:
    "the host's certificate is signed by somebody whom this machine does not know",
  UNABLE_TO_GET_ISSUER_CERT: "the host's certificate is signed by somebody whom this machine does not know",
  ERR_TLS_CERT_ALTNAME_INVALID: "the host's certificate is for another name",
  CERT_REVOKED: "the host's certificate was taken back",
};

/** Codes of faults in the language of encryption itself, as where a host answers without it. */
const NOT_TLS = /^(?:ERR_SSL_|EPROTO)/;
/** Codes of answers that are no HTTP. */
const NOT_HTTP = /^HPE_/;

/** What `fetch` says it failed for. */
export function fetchErrorCode(error: unknown): string {
  const { cause } = error as { cause?: NodeJS.ErrnoException };
  return cause?.code ?? '';
}

/**
 * Why a request got no answer within `time` milliseconds, in plain words, and whether that may be for reasons of this
 * machine rather than of the host.
 */
export function whyNotFetched(
  error: unknown,
  time: number,
): { readonly text: string; readonly isOurs: boolean } {
  if (!(error instanceof Error)) return { text: String(error), isOurs: true };
  if (error.name === 'TimeoutError' || error.name === 'AbortError')
    return { text: `no full answer within ${time / 1000} seconds`, isOurs: false };
  const code = fetchErrorCode(error);
  const { cause } = error as { cause?: Error };
  const isOurs = ownTrouble.has(code);
  const known = Object.hasOwn(answers, code) ? answers[code] : undefined;
  if (known !== undefined) return { text: known, isOurs };
  if (NOT_TLS.test(code)) return { text: 'the host does not answer with encryption', isOurs };
  if (NOT_HTTP.test(code)) return { text: 'the host answers with what is not HTTP', isOurs };
  if (cause?.message === 'bad port') return { text: 'no browser asks at that port', isOurs };
  return { text: cause?.message || error.message, isOurs };
}
