import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { sentence } from "../../theme/recipes/sentence";

const Span = chakra("span");

/** Stands behind a part of a sentence and draws the full stop after it into the room kept for it. */
export function After() {
  const styles = useSlotRecipe({ recipe: sentence })();
  return <Span css={styles["after"]} />;
}
