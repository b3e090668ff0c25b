import { t } from "@lingui/core/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { sentence } from "../../theme/recipes/sentence";
import { Floating } from "../Floating";
import { Box } from "../layout";
import { After } from "./After";
import { Choices, type Option } from "./Choices";

const Words = chakra("p");
const Button = chakra("button");

type Size = "lead" | "text";

/** A sentence whose underlined parts open their choices. */
export function Sentence({ size = "lead", children }: { size?: Size; children: ReactNode }) {
  const styles = useSlotRecipe({ recipe: sentence })({ size });
  return <Words css={styles["words"]}>{children}</Words>;
}

type PartProps = {
  /** What this part of the sentence is about, for those who do not see it: "Service". */
  label: string;
  /** The words in the sentence. */
  words: ReactNode;
  /** False where the part only repeats what holds anyway; it is then written quietly. */
  differs?: boolean;
  disabled?: boolean;
};

/** An underlined part that opens something of its own. */
export function Part({
  label,
  words,
  differs = true,
  disabled = false,
  children,
}: PartProps & { children: (close: () => void) => ReactNode }) {
  const styles = useSlotRecipe({ recipe: sentence })();
  const button = (
    <Button type="button" css={styles["part"]} data-differs={differs} disabled={disabled}>
      <Box as="span" srOnly>
        {label}:{" "}
      </Box>
      {words}
    </Button>
  );
  return (
    <>
      <Floating label={label} trigger={button}>
        {children}
      </Floating>
      <After />
    </>
  );
}

/** An underlined part whose choices are a list. */
export function ChoicePart({
  options,
  value,
  onChange,
  words,
  ...rest
}: Omit<PartProps, "words"> & {
  options: Option[];
  value: string;
  onChange: (value: string) => void;
  words?: ReactNode;
}) {
  return (
    <Part {...rest} words={words ?? options.find((option) => option.value === value)?.label ?? t`choose`}>
      {(close) => (
        <Choices
          label={rest.label}
          options={options}
          value={value}
          onChoose={(chosen) => {
            onChange(chosen);
            close();
          }}
        />
      )}
    </Part>
  );
}
