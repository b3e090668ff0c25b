import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, Navigate, useNavigate } from "react-router";
import { asks } from "../../../api/queries";
import { staff, type Session } from "../../../api/staff";
import { Outcome, useChange } from "../../../shared/change";
import { useArrived } from "../../../shared/arrived";
import { Box, Row } from "../../../shared/layout";
import { useKeptHere } from "../../../shared/keptHere";
import { locale } from "../../../shared/format";
import { Plain } from "../../../shared/Plain";
import { Press } from "../../../shared/Press";
import { answerOf, Problem } from "../../../shared/problem";
import { useDeskSetup } from "../../../shared/today";
import { useSettled } from "../../../shared/settled";
import { Sentence } from "../../../shared/sentence/Sentence";
import { guide } from "../../../theme/recipes/guide";
import { begun, trades, type Begin, type BeginDraft, type Trade } from "./beginning";
import type { GuideProps } from "./guideProps";
import { linesOfGuide } from "./lines";
import { Phone } from "./Phone";

const Title = chakra("h1");
const nothingYet: BeginDraft = { trade: null, begin: {} as Begin };

/** Dates, times and prices are written as the business that is described will write them. */
function write(locale: string | null | undefined) {
  if (locale) document.documentElement.lang = locale;
}

/** The way from an empty business to a page that takes bookings: one question, then sentences with the usual filled in. */
export function GuidePage({ session }: { session: Session }) {
  const styles = useSlotRecipe({ recipe: guide })();
  const [draft, setDraft] = useKeptHere<BeginDraft>("kingcup-beginning", nothingYet);
  const beginnings = useQuery(asks.beginnings());
  const [before] = useState(locale);
  useState(() => write(draft.begin.locale));
  useEffect(() => () => write(before), [before]);
  const hasBegun = useDeskSetup().locations.length > 0;
  const begin = (trade: Trade) => {
    const usual = beginnings.data?.find((beginning) => beginning.trade === trade);
    if (!usual) return;
    const first = begun(usual, session.name);
    write(first.locale);
    setDraft({ trade, begin: first });
  };
  if (hasBegun) return <Navigate to="/setup" replace />;
  return (
    <Box as="main" css={styles["page"]}>
      {draft.trade === null ? (
        <FirstQuestion onChoose={begin} />
      ) : (
        <Sentences
          draft={draft.begin}
          onChange={(change) => {
            if (change.locale) write(change.locale);
            setDraft({ ...draft, begin: { ...draft.begin, ...change } });
          }}
          onAgain={() => setDraft(null)}
          onBegun={() => setDraft(null)}
        />
      )}
    </Box>
  );
}

function FirstQuestion({ onChoose }: { onChoose: (trade: Trade) => void }) {
  const heading = useArrived<HTMLHeadingElement>();
  const styles = useSlotRecipe({ recipe: guide })();
  return (
    <Box maxW="190" mx="auto">
      <Title ref={heading} tabIndex={-1} outline="none" css={styles["title"]}>
        <Trans>What do you do?</Trans>
      </Title>
      <Box css={styles["lead"]}>
        <Trans>
          Choose what comes closest. Hours, rooms, services and prices are filled in as they usually are; you change
          what differs.
        </Trans>
      </Box>
      <Box css={styles["trades"]}>
        {trades.map(([trade, name, hint]) => (
          <Plain key={trade} css={styles["trade"]} onClick={() => onChoose(trade)}>
            <b>{name}</b>
            <Box as="span" color="quiet" fontSize="small">
              {hint}
            </Box>
          </Plain>
        ))}
      </Box>
      <Box mt="5">
        <Link to="/setup/business">
          <Box as="span" textDecoration="underline">
            <Trans>Set everything up by yourself instead</Trans>
          </Box>
        </Link>
      </Box>
    </Box>
  );
}

type SentencesProps = {
  draft: Begin;
  onChange: (change: Partial<Begin>) => void;
  onAgain: () => void;
  onBegun: () => void;
};

function Sentences({ draft, onChange, onAgain, onBegun }: SentencesProps) {
  const heading = useArrived<HTMLHeadingElement>();
  const styles = useSlotRecipe({ recipe: guide })();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [sent, setSent] = useState<Begin | null>(null);
  const lines = useRef<HTMLDivElement>(null);
  const settled = useSettled(draft, 250);
  // What it is called changes nothing of what can be booked.
  const named = { ...settled, name: settled.name?.trim() || "…" };
  const tried = useQuery({ ...asks.begunSo(named), placeholderData: keepPreviousData, retry: false });
  const open = useChange(
    (wanted: Begin, headers) => answerOf(staff.POST("/api/v1/setup/begin", { headers, body: wanted })),
    () => {
      void queries.refetchQueries({ queryKey: asks.desk().queryKey }).then(() => {
        onBegun();
        void navigate("/setup");
      });
    },
  );
  const problem = tried.error instanceof Problem ? tried.error : null;
  // What is still to be filled in is told once somebody wants to open; what was entered wrongly, at once.
  const errors = { ...(problem?.errors ?? {}), ...(sent === draft ? open.errors : {}) };
  const refusal = open.problem ?? (sent === draft ? problem : null);
  // Whoever could not open the book stands where the first thing is to be filled in.
  useEffect(() => {
    if (refusal) lines.current?.querySelector<HTMLElement>("section:has([data-open=true]) button")?.focus();
  }, [refusal]);
  const props: GuideProps = { draft, errors, onChange };
  const bookable = tried.data?.services.filter((service) => service.date).length ?? 0;
  return (
    <Box css={styles["columns"]}>
      <Box ref={lines}>
        <Title ref={heading} tabIndex={-1} outline="none" css={styles["title"]}>
          <Trans>Let us open your book.</Trans>
        </Title>
        <Box css={styles["lead"]}>
          <Trans>Fill in the sentences. Everything can be changed later, in the setup.</Trans>
        </Box>
        {linesOfGuide.map(({ name, fields, Line }) => {
          const own = Object.entries(errors).filter(([field]) => fields.some((start) => field.startsWith(start)));
          const isNamed = name !== "Business" || Boolean(draft.name?.trim());
          const isDone = own.length === 0 && isNamed;
          return (
            <Box key={name} as="section" aria-label={name} css={styles["line"]}>
              <Box
                css={styles["mark"]}
                data-open={!isDone}
                role="img"
                aria-label={isDone ? t`complete` : t`not complete yet`}
              >
                {isDone ? "✓" : "?"}
              </Box>
              <Box css={styles["words"]}>
                <Sentence size="text">
                  <Line {...props} />
                </Sentence>
                {(sent || isNamed) &&
                  own.map(([field, text]) => (
                    <Box key={field} role="alert" color="clay" fontSize="small">
                      {text}
                    </Box>
                  ))}
              </Box>
            </Box>
          );
        })}
        <Row mt="3.5">
          <Press look="quiet" size="small" onClick={onAgain}>
            <Trans>Begin with something else</Trans>
          </Press>
        </Row>
      </Box>
      <Box css={styles["side"]}>
        <Phone draft={draft} begun={tried.data ?? null} isOld={tried.isFetching} />
        <Box aria-live="polite">
          {tried.data && !problem ? (
            <>
              <Trans>
                <b>
                  {bookable === tried.data.services.length
                    ? t`All of it`
                    : t`${bookable} of ${tried.data.services.length}`}
                </b>{" "}
                could be booked from this minute.
              </Trans>
            </>
          ) : (
            t`Complete the sentences, and it can be booked.`
          )}
        </Box>
        <Press
          look="primary"
          size="big"
          disabled={open.pending}
          onClick={() => {
            setSent(draft);
            if (!problem) open.run(draft);
          }}
        >
          <Trans>Open the book</Trans>
        </Press>
        <Outcome change={open} saved={t`Your book is open.`} fields={Object.keys(open.errors)} />
      </Box>
    </Box>
  );
}
