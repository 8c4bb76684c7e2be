/** Integrity values: the hashes that a browser holds a script or stylesheet to (Subresource Integrity). */

export type Algorithm = 'sha256' | 'sha384' | 'sha512';

/** The strongest first: only hashes of the strongest count (SRI 3.3.4). */
const byStrength: readonly Algorithm[] = ['sha512', 'sha384', 'sha256'];

/**
 * True where a browser would take what has these digests in base64, which is also so where the value holds no hash
 * that it knows (SRI 3.3.5).
 */
export function integrityHolds(integrity: string, digest: (algorithm: Algorithm) => string): boolean {
  const hashes = integrity
    .trim()
    .split(/\s+/)
    .flatMap((token) => {
      const [, algorithm, value] = /^(sha256|sha384|sha512)-([A-Za-z0-9+/_=-]+)/.exec(token) ?? [];
      return algorithm && value ? [{ algorithm, value }] : [];
    });
  const strongest = byStrength.find((name) => hashes.some(({ algorithm }) => algorithm === name));
  if (strongest === undefined) return true;
  const found = plain(digest(strongest));
  return hashes.some(({ algorithm, value }) => algorithm === strongest && plain(value) === found);
}

function plain(base64: string): string {
  return base64.replaceAll('-', '+').replaceAll('_', '/').replace(/=+$/, '');
}
