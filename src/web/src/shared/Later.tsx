import { useDeferredValue, type ReactNode } from "react";

/**
 * What is drawn after that which is around it, in small pieces between which the screen answers: long lists, and what stands beside
 * them. It is there a moment later, and what is around it a moment sooner.
 */
export const Later = ({ children }: { children: ReactNode }) => (useDeferredValue(true, false) ? children : null);
