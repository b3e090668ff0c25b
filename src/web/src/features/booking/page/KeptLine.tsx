import { plural } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { clockRange, dateIn, money, shortDate } from "../../../shared/format";
import { Press } from "../../../shared/Press";
import { visit as recipe } from "../../../theme/recipes/visit";
import type { Holding } from "./useHold";

const Box = chakra("div");

/** The visit as it is kept for the client, and for how long more: a quiet clock. */
export function KeptLine({ holding, zone }: { holding: Holding; zone: string }) {
  const styles = useSlotRecipe({ recipe })();
  const { kept, minutes } = holding;
  if (holding.isOver)
    return (
      <Box css={styles["kept"]} role="status">
        <Trans>This time is not kept for you any more. You can still book it, as long as nobody else is quicker.</Trans>
        <Press onClick={holding.again}>
          <Trans>Keep it once more</Trans>
        </Press>
      </Box>
    );
  if (!kept) return null;
  return (
    <Box css={styles["kept"]}>
      <div>
        {kept.lines.map((line) => (
          <div key={line}>
            <b>{line}</b>
          </div>
        ))}
        {shortDate(dateIn(kept.start, zone))}, {clockRange(kept.start, kept.end, zone)} · {money(kept.price)}
      </div>
      <Box css={styles["keptFor"]}>
        <Box css={styles["ribbon"]} aria-hidden>
          <Box css={styles["free"]} style={{ left: 0, width: `${(minutes / (kept.seconds / 60)) * 100}%` }} />
        </Box>
        {plural(minutes, {
          one: "kept for you for less than a minute more",
          other: "kept for you for # more minutes",
        })}
      </Box>
    </Box>
  );
}
