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
