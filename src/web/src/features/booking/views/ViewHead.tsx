import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { ReactNode } from "react";
import type { DeskSetup } from "../../../api/staff";
import { Box } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { Sentence } from "../../../shared/sentence/Sentence";
import { useArrived } from "../../../shared/arrived";
import { ViewSelect, type View } from "./ViewSelect";

type Props = {
  view: View;
  title: string;
  location: DeskSetup["locations"][number];
  date: string;
  /** What is looked at, as a sentence. */
  children: ReactNode;
  onStep: (steps: number) => void;
  onToday: () => void;
  actions?: ReactNode;
};

/** The head of a view of the book: which, of when, and what of it. */
export function ViewHead({ view, title, location, date, children, onStep, onToday, actions }: Props) {
  const heading = useArrived<HTMLHeadingElement>();
  return (
    <Box as="header" mb="2.5" className="kc-unprinted">
      <Box display="flex" flexWrap="wrap" alignItems="center" gap="2" mb="1.5">
        <ViewSelect view={view} locationId={location.id} date={date} />
        <Press aria-label={t`Earlier`} onClick={() => onStep(-1)} px="2.5">
          ‹
        </Press>
        <Box
          as="h1"
          ref={heading}
          tabIndex={-1}
          outline="none"
          fontSize="title"
          minW={{ base: "0", md: "55" }}
          textAlign="center"
        >
          {title}
        </Box>
        <Press aria-label={t`Later`} onClick={() => onStep(1)} px="2.5">
          ›
        </Press>
        {date !== location.today && (
          <Press look="quiet" px="2" onClick={onToday}>
            <Trans>Today</Trans>
          </Press>
        )}
        <Box flex="1" />
        {actions}
      </Box>
      <Sentence size="text">{children}</Sentence>
    </Box>
  );
}
