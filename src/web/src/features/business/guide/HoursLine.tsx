import { t } from "@lingui/core/macro";
import { whole } from "../../../shared/whole";
import { Trans } from "@lingui/react/macro";
import { Box } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { Part } from "../../../shared/sentence/Sentence";
import { OpeningHours } from "../OpeningHours";
import { hoursWords } from "./beginning";

import type { GuideProps } from "./guideProps";
/** When clients may be there. */
export function HoursLine({ draft, errors, onChange }: GuideProps) {
  return (
    <>
      <Trans>
        We are open{" "}
        {whole(
          <Part label={t`Opening hours`} words={hoursWords(draft.opening ?? [])}>
            {(close) => (
              <Box w="190" maxW="90vw">
                <OpeningHours
                  hours={draft.opening ?? []}
                  errors={errors}
                  onChange={(opening) => onChange({ opening })}
                />
                <Press look="primary" size="small" mt="2" onClick={close}>
                  <Trans>Done</Trans>
                </Press>
              </Box>
            )}
          </Part>,
        )}
        .
      </Trans>
    </>
  );
}
