import { Plain } from "./Plain";
import { useRecipe } from "@chakra-ui/react";
import type { ComponentProps } from "react";

type Look = "primary" | "plain" | "quiet" | "danger";
type Size = "small" | "normal" | "big";

/** A button in one of Kingcup's four looks. */
export function Press({ look, size, ...rest }: ComponentProps<typeof Plain> & { look?: Look; size?: Size }) {
  const recipe = useRecipe({ key: "button" });
  const styles = recipe({ ...(look && { look }), ...(size && { size }) } as object);
  return <Plain type="button" css={styles} {...rest} />;
}
