/** Widths from which, or up to which, a screen lays itself out otherwise. */

export const roomy = "@media (min-width: 480px)";
export const wide = "@media (min-width: 900px)";
export const narrow = "@media (max-width: 760px)";
/** A telephone: the rail lies on top. */
export const phone = "@media (max-width: 640px)";
