import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useId, useRef, type KeyboardEvent, type ReactNode } from "react";
import { partTabs } from "../theme/recipes/partTabs";
import { Plain } from "./Plain";

const Box = chakra("div");

type Props<T extends string> = {
  label: string;
  names: readonly (readonly [T, string])[];
  chosen: T;
  onChoose: (name: T) => void;
  children: ReactNode;
};

/** Parts of one thing, one of which is seen; arrows go from one to the next. */
export function PartTabs<T extends string>({ label, names, chosen, onChoose, children }: Props<T>) {
  const styles = useSlotRecipe({ recipe: partTabs })();
  const id = useId();
  const list = useRef<HTMLDivElement>(null);
  const press = (event: KeyboardEvent) => {
    const way = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    if (way === 0) return;
    event.preventDefault();
    const at = names.findIndex(([name]) => name === chosen);
    const next = names[(at + way + names.length) % names.length]!;
    onChoose(next[0]);
    list.current?.querySelectorAll<HTMLElement>("[role=tab]")[names.indexOf(next)]?.focus();
  };
  return (
    <Box>
      <Box ref={list} role="tablist" aria-label={label} css={styles["list"]} onKeyDown={press}>
        {names.map(([name, words]) => (
          <Plain
            key={name}
            role="tab"
            id={`${id}-${name}`}
            aria-selected={name === chosen}
            aria-controls={`${id}-panel`}
            tabIndex={name === chosen ? 0 : -1}
            css={styles["tab"]}
            onClick={() => onChoose(name)}
          >
            {words}
          </Plain>
        ))}
      </Box>
      <Box role="tabpanel" id={`${id}-panel`} aria-labelledby={`${id}-${chosen}`} css={styles["panel"]}>
        {children}
      </Box>
    </Box>
  );
}
