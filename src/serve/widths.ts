/** Widths of windows that people have (CSS pixels). */
export const WIDTHS: readonly number[] = [320, 390, 768, 1280];
