import { useLayoutEffect, type RefObject } from "react";
import { fitOf, roomy } from "./fit";

/**
 * Shortens the words on blocks as their room shrinks: to initials, to a mark, to nothing; and shows a third line where lanes are tall.
 * One measure of the scale says it for all of them, so that no block has to be measured.
 */
export function useFit(picture: RefObject<HTMLElement | null>, minutes: number, drawn: unknown) {
  useLayoutEffect(() => {
    const root = picture.current;
    const track = root?.querySelector<HTMLElement>("[data-track]");
    if (!root || !track) return;
    const fit = () => {
      const perMinute = track.offsetWidth / minutes;
      const tall = root.querySelector<HTMLElement>(".kc-words[data-tall]");
      root.toggleAttribute("data-roomy", tall !== null && tall.offsetHeight > roomy);
      for (const words of root.querySelectorAll<HTMLElement>(".kc-words")) {
        const next = fitOf(Number(words.dataset["minutes"]) * perMinute);
        if (next === words.dataset["fit"]) continue;
        if (next) words.dataset["fit"] = next;
        else delete words.dataset["fit"];
      }
    };
    fit();
    const seen = new ResizeObserver(fit);
    seen.observe(track);
    return () => seen.disconnect();
  }, [picture, minutes, drawn]);
}
