import { Trans } from "@lingui/react/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Box, Row, asForm } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { Part } from "../../../shared/sentence/Sentence";
import { guide } from "../../../theme/recipes/guide";

/** What a part of a sentence opens: a few fields, and how to be through with them. */
export function Panel({
  close,
  children,
  onRemove,
}: {
  close: () => void;
  children: ReactNode;
  onRemove?: () => void;
}) {
  const styles = useSlotRecipe({ recipe: guide })();
  return (
    <Box
      {...asForm}
      css={styles["panel"]}
      onSubmit={(event: React.FormEvent) => {
        event.preventDefault();
        close();
      }}
    >
      {children}
      <Row>
        <Press type="submit" look="primary" size="small">
          <Trans>Done</Trans>
        </Press>
        {onRemove && (
          <Press
            look="danger"
            size="small"
            onClick={() => {
              onRemove();
              close();
            }}
          >
            <Trans>Take it out</Trans>
          </Press>
        )}
      </Row>
    </Box>
  );
}

/** Parts in a row, with commas between them and the last one joined. */
export const joined = (parts: ReactNode[], last: ReactNode) =>
  parts.map((part, i) => (
    <span key={i}>
      {part}
      {i < parts.length - 1 ? ", " : last}
    </span>
  ));

/** A part that adds an entry as it opens. */
export function Add({
  onAdd,
  ...rest
}: {
  label: string;
  words: string;
  onAdd: () => void;
  children: (close: () => void) => ReactNode;
}) {
  return (
    <span onClickCapture={(event) => (event.target as Element).closest("[aria-expanded=false]") && onAdd()}>
      <Part {...rest} />
    </span>
  );
}
