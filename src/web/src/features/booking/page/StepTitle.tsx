import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useEffect, useRef, type ReactNode } from "react";
import { visit } from "../../../theme/recipes/visit";

const Title = chakra("h2");
let begun = false;

/**
 * What is asked now. When a client has gone a step, the focus goes there; when the page is opened it stays where the browser
 * puts it.
 */
export function StepTitle({ as = "h2", children }: { as?: "h1" | "h2"; children: ReactNode }) {
  const styles = useSlotRecipe({ recipe: visit })();
  const ref = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    if (begun) {
      ref.current?.focus({ preventScroll: true });
      ref.current?.scrollIntoView({ block: "nearest" });
    }
    begun = true;
  }, []);
  return (
    <Title as={as} ref={ref} tabIndex={-1} css={styles["title"]}>
      {children}
    </Title>
  );
}
