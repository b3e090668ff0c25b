/** Stands behind a part of a sentence (a word joiner), so that a full stop after it does not begin a line. */
export const joined = "\u2060";
