import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState, type FormEvent } from "react";
import { visitors, type Booked, type Business, type Price } from "../../../api/public";
import { AreaField, TextField } from "../../../shared/Field";
import { askAnew } from "../../../shared/askAnew";
import { clock, money } from "../../../shared/format";
import { useKeptHere } from "../../../shared/keptHere";
import { Press } from "../../../shared/Press";
import { answerOf, Problem } from "../../../shared/problem";
import { AlongFields } from "./AlongFields";
import { DueNow } from "./DueNow";
import { KeptLine } from "./KeptLine";
import { comingTo } from "./address";
import { linesOf, type Wish, type You } from "./lines";
import { PromoPart } from "./PromoPart";
import type { Holding } from "./useHold";
import { goToCard } from "./usePaying";
import { StartProblem } from "./StartProblem";
import { StepTitle } from "./StepTitle";
import type { AsWhom } from "./useAsWhom";
import { Showing, WhomLine } from "./WhomLine";
import { Agree, Questions, Terms, type Agreed } from "./Questions";
import { roomy } from "../../../theme/media";

const Box = chakra("div");
const card = {
  base: {
    display: "grid",
    gap: "3.5",
    bg: "sheet",
    borderWidth: "line",
    borderColor: "line",
    borderRadius: "card",
    p: "4",
  },
} as const;
const Card = chakra("div", card);
const FormCard = chakra("form", card);
type Props = {
  whom: AsWhom;
  business: Business;
  wish: Wish;
  start: string;
  zone: string;
  holding: Holding;
  /** What became of the promo code they have named; null where they named none. */
  promo: Price["promo"];
  onPromo: (code: string | null) => void;
  /** Kept by the page, so that nothing has to be typed again for the next visit. */
  you: You;
  onYou: (you: You) => void;
  onOther: (start: string) => void;
  onWhen: () => void;
  onBooked: (visit: Booked) => void;
  /** A payment was begun; its token names it from here on. */
  onPaying: (token: string) => void;
};
type Due = { amount: number; currency: string; needsCard: boolean };

const dueOf = (problem: Problem): Due => {
  const { due, needsCard } = problem.body as { due: { amount: number; currency: string }; needsCard: boolean };
  return { ...due, amount: Number(due.amount), needsCard };
};
const noAnswers = {};
const noNote = { text: "" };
const nobodyAlong: string[] = [];
const noConsent = { terms: null };
const noneAgreed: Agreed = { agreesToTexts: false, agreesToNews: false };

/** Who comes; asked only now that a time is chosen, of whoever may book. */
export function Details(props: Props) {
  const { whom, wish } = props;
  // Nobody is asked for a name who is about to be known.
  if (whom.isAsking) return <Card role="status">{t`One moment …`}</Card>;
  return wish.as || whom.mayBookAsNew ? <Form {...props} /> : <ShownFirst {...props} />;
}

/** Where not everybody books by a name alone. */
function ShownFirst({ whom, business, holding, zone }: Props) {
  return (
    <Card>
      <KeptLine holding={holding} zone={zone} />
      <Box>
        {whom.access.newPeople ? (
          <Trans>Here everybody books with an address that is theirs. It takes a code, and a moment.</Trans>
        ) : (
          <Trans>
            Here clients book online who have been before.
            {business.phone && t` Everybody else is welcome to call ${business.phone}.`}
          </Trans>
        )}
      </Box>
      {whom.people.length > 0 && <WhomLine whom={whom} />}
      {whom.people.length === 0 && <Showing whom={whom} />}
    </Card>
  );
}

function Form(props: Props) {
  const { whom, business, wish, start, zone, holding, promo, you, onYou, onOther, onWhen, onBooked, onPaying } = props;
  const [answers, setAnswers] = useKeptHere<Record<string, string>>("kingcup-answers", noAnswers);
  const [consent, setConsent] = useKeptHere<{ terms: number | null }>("kingcup-consent", noConsent);
  const [agreed, setAgreed] = useKeptHere<Agreed>("kingcup-agreed", noneAgreed);
  const [people, setPeople] = useKeptHere<string[]>("kingcup-people", nobodyAlong);
  const [note, setNote] = useKeptHere<{ text: string }>("kingcup-note", noNote);
  // Where it had to be shown to be theirs, the address stays the one that was.
  const proven: Partial<You> =
    whom.proven && !whom.access.guests ? { [whom.proven.isEmail ? "email" : "phone"]: whom.proven.address } : {};
  const queries = useQueryClient();
  const asked = business.questions.filter(
    ({ serviceIds }) => serviceIds.length === 0 || wish.lines.some((line) => serviceIds.includes(line.service.id)),
  );
  const along = Array.from({ length: comingTo(wish.lines) - 1 }, (_, i) => i + 1);
  // One key for one booking: pressing twice, or a repeat after a lost connection, books once.
  const [key, setKey] = useState(() => crypto.randomUUID());
  // What is due is known with the time that is kept, or told when it is not.
  const [told, setTold] = useState<Due | null>(null);
  const due: Due | null = holding.kept
    ? {
        amount: Number(holding.kept.due.amount),
        currency: holding.kept.due.currency,
        needsCard: holding.kept.needsCard,
      }
    : told;
  const isPaid = due !== null && (due.amount > 0 || due.needsCard);
  const body = (hold: string | null) => ({
    locationId: wish.locationId,
    start,
    lines: linesOf(wish),
    people: along.map((person) => people[person - 1] ?? ""),
    link: wish.link,
    acceptedTerms: consent.terms,
    hold,
    promo: promo && !promo.fault ? promo.code : null,
    priceSeen: holding.kept ? Number(holding.kept.price.amount) : null,
    dueSeen: due ? due.amount : null,
    policySeen: holding.kept ? Number(holding.kept.policyId) : null,
    answers: asked.map((item) => ({ questionId: item.id, answer: answers[item.id] ?? "" })),
    note: note.text,
    ...agreed,
    ...(wish.as ? { as: wish.as } : { ...you, ...proven }),
  });
  const sent = (hold: string | null) => ({ params: { header: { "Idempotency-Key": key } }, body: body(hold) });
  const book = useMutation({
    mutationFn: async (): Promise<Booked | null> => {
      const hold = await holding.token();
      if (!isPaid) return answerOf(visitors.POST("/api/public/v1/visits", sent(hold)));
      const payment = await answerOf(visitors.POST("/api/public/v1/payments", sent(hold)));
      onPaying(payment.token);
      await goToCard(payment.token);
      return null;
    },
    onSuccess: (visit) => {
      // Whoever pays first comes back to what they wrote, should nothing come of it.
      if (!visit) return;
      setAnswers(null);
      setPeople(null);
      setNote(null);
      setConsent(null);
      setAgreed(null);
      onBooked(visit);
    },
    onError: (error) => {
      if (!(error instanceof Problem) || error.status === 0) return;
      if (error.status === 401) whom.lost();
      setKey(crypto.randomUUID());
      // What has changed is looked at once more.
      if (error.code === "price-changed" || error.code === "policy-changed") holding.again();
      if (error.code === "payment-due") setTold(dueOf(error));
      // Terms or questions that were changed meanwhile are shown as they are now.
      if (Object.keys(error.errors).some((name) => name === "acceptedTerms" || name.startsWith("answers."))) {
        void askAnew(queries, { queryKey: ["business"] });
      }
    },
  });
  const form = useRef<HTMLFormElement>(null);
  // What was refused is where one goes on.
  useEffect(() => {
    if (book.isError) form.current?.querySelector<HTMLElement>("[aria-invalid=true], [role=alert] button")?.focus();
  }, [book.isError, book.error]);
  const problem = book.error instanceof Problem ? book.error : holding.problem;
  const errors = problem?.errors ?? {};
  // A code that was typed and not used yet is tried first: nobody pays more who has named one.
  const [code, setCode] = useState({ typed: wish.promo ?? "", used: wish.promo ?? "" });
  const tryCode = (typed: string) => {
    setCode({ typed, used: typed });
    book.reset();
    props.onPromo(typed.trim() || null);
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (book.isPending || holding.isTrying) return;
    if (code.typed.trim() && code.typed !== code.used) tryCode(code.typed);
    else book.mutate();
  };
  const field = (name: keyof typeof you) => ({
    value: proven[name] ?? you[name],
    readOnly: proven[name] !== undefined,
    onChange: (event: { target: { value: string } }) => onYou({ ...you, [name]: event.target.value }),
    error: errors[name],
  });
  return (
    <FormCard ref={form} onSubmit={submit} noValidate>
      <StepTitle>
        <Trans>Who is coming?</Trans>
      </StepTitle>
      <KeptLine holding={holding} zone={zone} />
      {wish.as && <WhomLine whom={whom} />}
      {problem && (problem.field === "start" || problem.code === "not-online") ? (
        <StartProblem
          problem={problem}
          start={start}
          zone={zone}
          onOther={(other) => {
            onOther(other);
            book.reset();
          }}
          onWhen={onWhen}
        />
      ) : (
        problem &&
        (problem.field === "price" || Object.keys(errors).length === 0) && (
          <Box role="alert" color="clay">
            {problem.message}
          </Box>
        )
      )}
      {!wish.as && (
        <>
          <Box display="grid" gap="3.5" css={{ [roomy]: { gridTemplateColumns: "1fr 1fr" } }}>
            <TextField label={t`Given name`} autoComplete="given-name" {...field("givenName")} />
            <TextField label={t`Family name`} autoComplete="family-name" {...field("familyName")} />
          </Box>
          <TextField label={t`E-mail`} type="email" inputMode="email" autoComplete="email" {...field("email")} />
          <TextField label={t`Mobile`} type="tel" inputMode="tel" autoComplete="tel" {...field("phone")} />
        </>
      )}
      <AlongFields along={along} people={people} errors={errors} onPeople={setPeople} />
      <Questions
        today={business.locations.find((other) => other.id === wish.locationId)!.today}
        questions={asked}
        mostFileBytes={Number(business.mostFileBytes)}
        answers={answers}
        errors={errors}
        onAnswers={(given) => setAnswers({ ...answers, ...given })}
      />
      <AreaField
        label={t`Anything we should know (if you like)`}
        rows={2}
        value={note.text}
        error={errors["note"]}
        onChange={(event) => setNote({ text: event.target.value })}
      />
      <Agree agreed={agreed} onAgree={setAgreed} />
      {business.terms && (
        <Terms
          html={business.terms.html}
          accepted={consent.terms === Number(business.terms.id)}
          error={errors["acceptedTerms"]}
          onAccept={(on) => setConsent({ terms: on ? Number(business.terms!.id) : null })}
        />
      )}
      <PromoPart
        said={promo && errors["promo"] ? { ...promo, fault: errors["promo"] } : promo}
        isTrying={holding.isTrying}
        typed={code.typed}
        onType={(typed) => setCode({ ...code, typed })}
        onUse={tryCode}
      />
      {holding.kept && <DueNow kept={holding.kept} />}
      <Press type="submit" look="primary" size="big" disabled={book.isPending || holding.isTrying}>
        {book.isPending
          ? isPaid
            ? t`To the card page …`
            : t`Booking …`
          : due && due.amount > 0
            ? t`Pay ${money(due)} and book ${clock(start, zone)}`
            : due?.needsCard
              ? t`Enter a card and book ${clock(start, zone)}`
              : holding.kept?.answerHours != null
                ? t`Ask for ${clock(start, zone)}`
                : t`Book ${clock(start, zone)}`}
      </Press>
    </FormCard>
  );
}
