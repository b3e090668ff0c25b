import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { timeWords } from "../../shared/format";
import { Box, Row } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { dropDraft } from "./dropDraft";
import type { Chosen } from "./fits";
import { Reasons } from "./Reasons";
import { Refusal } from "./Sheet";
import type { useBooking } from "./useBooking";
import { isBegun, type VisitDraft } from "./visitDrafts";

function bookWords(start: Chosen | null, times: number) {
  if (!start) return t`Book`;
  if (times > 1) return plural(times, { one: "Book # visit", other: "Book # visits" });
  const at = timeWords(start.clock);
  return start.accept ? t`Book ${at} all the same` : t`Book ${at}`;
}

type Props = {
  /** The form this books. */
  form: string;
  booking: ReturnType<typeof useBooking>;
  start: Chosen | null;
  canBook: boolean;
  /** How many visits it is, where it repeats. */
  times: number;
  lacksClient: boolean;
  onTake: (start: Chosen) => void;
  draft: VisitDraft;
  onClose: () => void;
};

/** What a new visit ends in: what stood in its way, and booking it. */
export function BookFoot({ form, booking, start, canBook, times, lacksClient, onTake, draft, onClose }: Props) {
  const { problem, errors, over, pending } = booking;
  return (
    <>
      {problem && Object.keys(errors).every((field) => !field.startsWith("newClient")) && (
        <Refusal>
          {problem.message} <Reasons body={problem.body} />
          {over && (
            <Box mt="1.5">
              <Press size="small" aria-pressed={start?.accept === over.accept} onClick={() => onTake(over)}>
                <Trans>Take {timeWords(over.clock)} all the same</Trans>
              </Press>
            </Box>
          )}
        </Refusal>
      )}
      <Row>
        <Press type="submit" form={form} look="primary" flex="1" disabled={!canBook || pending}>
          {bookWords(start, times)}
        </Press>
        {isBegun(draft) && (
          <Press
            look="quiet"
            onClick={() => {
              dropDraft(draft);
              onClose();
            }}
          >
            <Trans>Drop it</Trans>
          </Press>
        )}
      </Row>
      {start && lacksClient && (
        <Box fontSize="small" color="quiet" mt="1.5">
          <Trans>Choose a client to book.</Trans>
        </Box>
      )}
    </>
  );
}
