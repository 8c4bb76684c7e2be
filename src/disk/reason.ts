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
  'UND_ERR_SOCKET',
  'UNABLE_TO_VERIFY_LEAF_SIGNATURE',
  'UNABLE_TO_GET_ISSUER_CERT_LOCALLY',
  'SELF_SIGNED_CERT_IN_CHAIN',
]);

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
  if (error.name === 'TimeoutError')
    return { text: `no full answer within ${time / 1000} seconds`, isOurs: false };
  const code = fetchErrorCode(error);
  const { cause } = error as { cause?: Error };
  const isOurs = ownTrouble.has(code);
  if (code === 'ENOTFOUND') return { text: 'there is no such host', isOurs };
  if (code === 'EAI_AGAIN') return { text: 'there is no network', isOurs };
  if (code === 'ECONNREFUSED') return { text: 'the host does not answer', isOurs };
  return { text: cause?.message || error.message, isOurs };
}
