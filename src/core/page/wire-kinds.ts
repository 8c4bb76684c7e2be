/** What a page can be wired to. */
export const wireKinds = ['stylesheet', 'script', 'module', 'icon', 'manifest', 'font'] as const;
export type WireKind = (typeof wireKinds)[number];
