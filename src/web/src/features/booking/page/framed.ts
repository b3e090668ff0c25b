/** Whether the page is shown in a frame of another site. */
export const isFramed = typeof window !== "undefined" && window.top !== window.self;

/** Where links of the page open: in a frame they take the whole window, since a browser keeps nothing for a page within another. */
export const opensIn = isFramed ? "_top" : undefined;
