import { useEffect } from "react";
import { isSingleKey } from "../../../shared/singleKeys";

const step = 1.25;

/** Plus and minus show fewer or more hours, unless somebody is writing. */
export function useZoomKeys(zoom: (factor: number) => void) {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (!isSingleKey(event) || target.closest("aside, dialog, [role=dialog], [role=listbox], [role=menu]")) return;
      if (event.key !== "+" && event.key !== "-") return;
      event.preventDefault();
      zoom(event.key === "+" ? 1 / step : step);
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [zoom]);
}
