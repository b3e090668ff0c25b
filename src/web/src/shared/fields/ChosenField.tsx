import { t } from "@lingui/core/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import { useId } from "react";
import { field } from "../../theme/recipes/field";
import { Floating } from "../Floating";
import { Box } from "../layout";
import { Plain } from "../Plain";
import { Choices, type Option } from "../sentence/Choices";

type Props = {
  label: string;
  value: string;
  options: Option[];
  onChange: (value: string) => void;
  error?: string | undefined;
  hint?: string | undefined;
};

/** A choice of many, searched while typing. */
export function ChosenField({ label, value, options, onChange, error, hint }: Props) {
  const styles = useSlotRecipe({ recipe: field })();
  const id = useId();
  const note = error ?? hint;
  const chosen = options.find((option) => option.value === value)?.label ?? value;
  return (
    <Box>
      <Box id={`${id}-label`} css={styles["label"]}>
        {label}
      </Box>
      <Floating
        label={label}
        trigger={
          <Plain
            id={id}
            css={styles["chosen"]}
            aria-labelledby={`${id}-label ${id}`}
            aria-invalid={error !== undefined || undefined}
            aria-describedby={note ? `${id}-note` : undefined}
          >
            {chosen || t`choose`}
          </Plain>
        }
      >
        {(close) => (
          <Choices
            label={label}
            options={options}
            value={value}
            onChoose={(next) => {
              onChange(next);
              close();
            }}
          />
        )}
      </Floating>
      {note && (
        <Box id={`${id}-note`} css={styles[error ? "error" : "hint"]} role={error ? "alert" : undefined}>
          {note}
        </Box>
      )}
    </Box>
  );
}
