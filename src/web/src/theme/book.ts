/** Textures and measures of the book's picture. */

/** How wide the heads of lanes are. */
export const headPixels = 158;
export const headWidth = `${headPixels}px`;

/** How low a lane is in which there is nothing. */
export const idlePixels = 18;

/** How wide the sheet is that lies over the book. */
export const sheetPixels = 360;

/** Closed time. */
export const woven = {
  bgColor: "woven",
  bgImage: "repeating-linear-gradient(90deg, token(colors.wovenLine) 0 1px, transparent 1px 5px)",
} as const;

/** Blocked time. */
export const hatched = {
  bgColor: "woven",
  bgImage: "repeating-linear-gradient(135deg, token(colors.line) 0 4px, transparent 4px 9px)",
} as const;
