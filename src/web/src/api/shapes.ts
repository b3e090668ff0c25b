// The shapes of what forms keep, generated from the API document.
import "./withoutEval";

export * from "./generated/shapes/zod.gen";
