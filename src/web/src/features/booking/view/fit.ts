/** Blocks taller than so many pixels have room for a third line. */
export const roomy = 46;

/** What is left of the words on a block so many pixels wide; undefined for all of them. */
export const fitOf = (pixels: number): "none" | "mark" | "initials" | undefined =>
  pixels <= 15 ? "none" : pixels <= 38 ? "mark" : pixels <= 62 ? "initials" : undefined;
