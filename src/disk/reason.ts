/** Says in plain words why the operating system refused something, and what to do. */

const reasons: Readonly<Record<string, string>> = {
  EACCES: 'reading or writing it is not permitted: change its permissions',
  EPERM: 'reading or writing it is not permitted: change its permissions',
  ENOENT: 'it does not exist',
  ENOTDIR: 'a file stands where a folder is needed',
  EEXIST: 'a file stands where a folder is needed',
  EISDIR: 'it is a folder, not a file',
  ENOSPC: 'the disk is full: make room and try again',
  EFBIG: 'it would be larger than is allowed here: allow larger files and try again',
  EDQUOT: 'the disk quota is used up: make room and try again',
  EROFS: 'the disk is read-only',
  EMFILE: 'too many files are open: close other programs and try again',
  ELOOP: 'it is a link that leads round in a circle',
  ENOTEMPTY: 'there are files in it',
  EXDEV: 'it lies on another disk',
  EBUSY: 'another program is using it: close that and try again',
  ETXTBSY: 'another program is using it: close that and try again',
  EPIPE: 'who was to read it has gone',
  EIO: 'the disk does not work as it should',
  ENAMETOOLONG: 'its name is too long for this disk',
};

/** Errors of the runtime over what it cannot hold. */
const TOO_LONG: ReadonlySet<string> = new Set(['ERR_STRING_TOO_LONG', 'ERR_FS_FILE_TOO_LARGE']);

/** Of a file that is longer than a text can be. */
export class TooLong extends Error {
  readonly code = 'ERR_STRING_TOO_LONG';
}

/** True for errors that come from the operating system, or from the runtime over what it cannot hold. */
export function isSystemError(error: unknown): error is NodeJS.ErrnoException {
  return (
    error instanceof Error && 'code' in error && ('syscall' in error || TOO_LONG.has(String(error.code)))
  );
}

/** The reason in words; an error that is not the system's is thrown on. */
export function reasonOf(error: unknown): string {
  if (!isSystemError(error)) throw error;
  if (TOO_LONG.has(error.code ?? '')) return 'it is too large to be read: part it into smaller files';
  if (process.platform === 'win32' && /^E(?:PERM|ACCES)$/.test(error.code ?? ''))
    return 'another program is using it, or it may not be written: close that program, or change its permissions';
  return reasons[error.code ?? ''] ?? `the system answered ${error.code}`;
}

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
