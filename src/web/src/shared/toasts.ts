import { createToaster } from "@chakra-ui/react";

/** What is said at the foot of the window: of things that are no longer on the screen, or have no place on it. */
export const toasts = createToaster({ placement: "bottom", pauseOnPageIdle: true });

/** Says that something was done; with a way to undo it where there is one. */
export const say = (text: string, undo?: { label: string; onClick: () => void }) =>
  toasts.create({ title: text, type: "success", duration: undo ? 10_000 : 5_000, ...(undo && { action: undo }) });

/** Says that something could not be done, and why. It stays until it was read. */
export const sayProblem = (problem: Error) =>
  toasts.create({ title: problem.message, type: "error", duration: Number.POSITIVE_INFINITY });
