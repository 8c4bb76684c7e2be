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
  ENAMETOOLONG: 'its name is too long for this disk',
};

/** True for errors that come from the operating system. */
function isSystemError(error: unknown): error is NodeJS.ErrnoException {
  return error instanceof Error && 'code' in error && 'syscall' in error;
}

/** The reason in words; an error that is not the system's is thrown on. */
export function reasonOf(error: unknown): string {
  if (!isSystemError(error)) throw error;
  return reasons[error.code ?? ''] ?? `the system answered ${error.code}`;
}
