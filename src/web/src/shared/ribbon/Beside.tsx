import { chakra, useSlotRecipe } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { ribbon } from "../../theme/recipes/ribbon";
import { percent, useScale } from "./scale";
import type { Stretch } from "./stretch";

const Box = chakra("div");

/** Text for a piece that is too short to hold it: after it, or before it where it ends late. */
export function Beside({ stretch, children }: { stretch: Stretch; children: ReactNode }) {
  const styles = useSlotRecipe({ recipe: ribbon })();
  const scale = useScale();
  const isLate = stretch.until > scale.from + (scale.until - scale.from) * 0.85;
  return (
    <Box
      css={styles["beside"]}
      aria-hidden
      style={
        isLate ? { right: `calc(100% - ${percent(stretch.from, scale)})` } : { left: percent(stretch.until, scale) }
      }
    >
      {children}
    </Box>
  );
}
