/** The colours of a business that has not chosen its own, and the one of words on them. */
export const usualColours = { main: "#17594A", accent: "#F4B400", onMain: "#FFFFFF" };
