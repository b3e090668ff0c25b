import type { Business } from "../../../api/public";

type Category = Business["categories"][number];

/** What a text says, without its formatting. */
export const plain = (html: string) =>
  new DOMParser().parseFromString(html, "text/html").body.textContent?.trim() ?? "";

/** A word as people type it: neither capitals nor accents matter. */
const bare = (text: string) => text.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();

/**
 * The services in which all of some words are found, in the name, in the text or in the name of the category; categories with none of
 * them are left out. Without a word all of them.
 */
export function matching(categories: readonly Category[], sought: string): Category[] {
  const words = bare(sought).split(/\s+/).filter(Boolean);
  if (words.length === 0) return [...categories];
  return categories
    .map((category) => ({
      ...category,
      services: category.services.filter((service) => {
        const text = bare(`${category.name} ${service.name} ${service.description}`);
        return words.every((word) => text.includes(word));
      }),
    }))
    .filter((category) => category.services.length > 0);
}

/** The category a link leads to before all others; as they are where it leads to none of them. */
export const firstOf = (categories: readonly Category[], id: string | null): Category[] => [
  ...categories.filter((category) => category.id === id),
  ...categories.filter((category) => category.id !== id),
];

/** What somebody does whom a link leads to, and their name; null where it leads to nobody who does anything here. */
export function doneBy(categories: readonly Category[], who: string | null) {
  const theirs = categories
    .map((category) => ({
      ...category,
      services: category.services.filter((service) => service.practitioners.some((one) => one.id === who)),
    }))
    .filter((category) => category.services.length > 0);
  const name = theirs[0]?.services[0]?.practitioners.find((one) => one.id === who)?.name;
  return name ? { categories: theirs, name } : null;
}
