import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useState } from "react";
import type { Price } from "../../../api/public";
import { TextField } from "../../../shared/Field";
import { money } from "../../../shared/format";
import { Press } from "../../../shared/Press";

const Box = chakra("div");
type Props = {
  /** What became of the code that was named; null where none was. */
  said: Price["promo"];
  isTrying: boolean;
  onPromo: (code: string | null) => void;
};

/** A promo code: named, tried at once, and taken out again. */
export function PromoPart({ said, isTrying, onPromo }: Props) {
  const [isOpen, setOpen] = useState(false);
  const [typed, setTyped] = useState(said?.code ?? "");
  if (said && !said.fault && !isTrying)
    return (
      <Box display="flex" flexWrap="wrap" alignItems="center" gap="2" role="status">
        <span>
          <Trans>
            <b>{said.code}</b> takes {money(said.off)} off.
          </Trans>
        </span>
        <Press
          look="quiet"
          onClick={() => {
            setTyped("");
            onPromo(null);
          }}
        >
          <Trans>Take the code out</Trans>
        </Press>
      </Box>
    );
  if (!isOpen && !said && !isTrying)
    return (
      <Box justifySelf="start">
        <Press look="quiet" onClick={() => setOpen(true)}>
          <Trans>I have a promo code</Trans>
        </Press>
      </Box>
    );
  const use = () => onPromo(typed.trim() || null);
  return (
    <Box display="grid" gap="2" gridTemplateColumns="1fr auto" alignItems="start">
      <TextField
        label={t`Promo code`}
        autoFocus={isOpen}
        autoComplete="off"
        autoCapitalize="characters"
        value={typed}
        error={isTrying ? undefined : (said?.fault ?? undefined)}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => {
          // It tries the code; it does not book.
          if (event.key !== "Enter") return;
          event.preventDefault();
          use();
        }}
      />
      <Box pt="6">
        <Press onClick={use} disabled={isTrying}>
          {isTrying ? t`Looking …` : t`Use it`}
        </Press>
      </Box>
    </Box>
  );
}
