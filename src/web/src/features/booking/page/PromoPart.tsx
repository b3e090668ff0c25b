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
  typed: string;
  onType: (typed: string) => void;
  /** Has what was typed tried; nothing takes the code out. */
  onUse: (typed: string) => void;
};

/** A promo code: named, tried at once, and taken out again. */
export function PromoPart({ said, isTrying, typed, onType, onUse }: Props) {
  const [isOpen, setOpen] = useState(false);
  if (said && !said.fault && !isTrying)
    return (
      <Box display="flex" flexWrap="wrap" alignItems="center" gap="2" role="status">
        <span>
          <Trans>
            <b>{said.code}</b> takes {money(said.off)} off.
          </Trans>
        </span>
        <Press look="quiet" onClick={() => onUse("")}>
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
  return (
    <Box display="grid" gap="2" gridTemplateColumns="1fr auto" alignItems="start">
      <TextField
        label={t`Promo code`}
        autoFocus={isOpen}
        autoComplete="off"
        autoCapitalize="characters"
        value={typed}
        error={isTrying ? undefined : (said?.fault ?? undefined)}
        onChange={(event) => onType(event.target.value)}
        onKeyDown={(event) => {
          // It tries the code; it does not book.
          if (event.key !== "Enter") return;
          event.preventDefault();
          onUse(typed);
        }}
      />
      <Box pt="6">
        <Press onClick={() => onUse(typed)} disabled={isTrying}>
          {isTrying ? t`Looking …` : t`Use it`}
        </Press>
      </Box>
    </Box>
  );
}
