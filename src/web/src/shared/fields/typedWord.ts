/** A list with what is typed beside it; nothing where nothing is, and nothing twice. */
export function withTyped(words: readonly string[], typed: string): string[] {
  const word = typed.trim();
  return word && !words.includes(word) ? [...words, word] : [...words];
}
