import { createContext, useContext } from "react";
import { timeWords } from "../format";
import { timeAt } from "../fields/clockText";
import type { Stretch } from "./stretch";

/** From when to when the ribbons around here reach, in minutes after midnight. */
export const ScaleContext = createContext<Stretch>({ from: 8 * 60, until: 20 * 60 });

export const useScale = () => useContext(ScaleContext);

/** Where a minute lies on a scale, in per cent. */
export const percent = (minute: number, scale: Stretch) =>
  `${((minute - scale.from) / (scale.until - scale.from)) * 100}%`;

/** The minute under a pointer. */
export const minuteUnder = (clientX: number, strip: HTMLElement, scale: Stretch) => {
  const box = strip.getBoundingClientRect();
  return scale.from + ((clientX - box.left) / Math.max(1, box.width)) * (scale.until - scale.from);
};

/** A minute as a time: "8:15"; over midnight that of the next day. */
export const minuteWords = (minute: number) => timeWords(timeAt(minute));

/** "10:00 – 19:00". */
export const stretchWords = ({ from, until }: Stretch) => `${minuteWords(from)} – ${minuteWords(until)}`;
