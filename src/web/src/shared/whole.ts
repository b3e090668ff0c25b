import type { ReactNode } from "react";

/** An element that stands in a sentence as one, so that what it opens is not taken for a piece of the sentence. */
export const whole = (element: ReactNode) => element;
