import { t } from "@lingui/core/macro";
import { chakra } from "@chakra-ui/react";
import type { Visit } from "../../api/staff";
import { clockRange, longDate, money, number, plainDate } from "../../shared/format";
import { Box, Span } from "../../shared/layout";
import { UnitPart } from "./lines/UnitPart";
import { Fact } from "./Sheet";

const Link = chakra("a");
type Given = Visit["answers"][number];

/** An answer as people write it; what was ticked or chosen is kept the same in every language. */
const inWords = ({ kind, answer }: Given) => {
  if (kind === "date") return plainDate(answer);
  if (kind === "number") return number(Number(answer));
  if (kind === "tick" || kind === "yesNo") return answer === "Yes" ? t`Yes` : t`No`;
  return answer;
};

/** What a visit is. */
export function VisitFacts({ visit, location, mayKeep }: { visit: Visit; location: string; mayKeep: boolean }) {
  const isOne = visit.lines.length === 1;
  const names = [
    `${visit.client.givenName} ${visit.client.familyName}`,
    ...(visit.people ?? []).map((person) => person.name ?? ""),
  ];
  return (
    <Box>
      <Fact label={visit.state === "answered" ? t`Asked for` : t`When`}>
        {longDate(visit.date)}
        <br />
        {clockRange(visit.start, visit.end, visit.zone)}
      </Fact>
      {visit.lines.map((line, i) => (
        <Box key={line.id}>
          <Fact label={t`Service`}>
            {line.service}
            {!isOne && (
              <>
                <br />
                {clockRange(line.start, line.end, visit.zone)}
              </>
            )}
          </Fact>
          {names.length > 1 && <Fact label={t`For`}>{names[line.person]}</Fact>}
          <Fact label={t`With`}>{line.practitioners.map((who) => who.name).join(" and ") || t`nobody`}</Fact>
          <Fact label={t`Where`}>{[...line.rooms, location].join(", ")}</Fact>
          {line.setMinutes && <Fact label={t`Length`}>{t`set by hand`}</Fact>}
          {line.addOns.length > 0 && <Fact label={t`Extras`}>{line.addOns.map((addOn) => addOn.name).join(", ")}</Fact>}
          {line.equipment.length > 0 && <Fact label={t`Equipment`}>{line.equipment.join(", ")}</Fact>}
          {visit.units
            .filter((held) => held.line === i)
            .map((held, place) => (
              // By its place: the same part goes on once it has another unit.
              <UnitPart key={`${held.resourceId} ${place}`} visit={visit} held={held} mayKeep={mayKeep} />
            ))}
        </Box>
      ))}
      <Fact label={t`Price`}>
        {money(visit.price)}
        {visit.promo && (
          <Span display="block" fontSize="small" color="quiet">
            {t`with ${visit.promo.code}, ${money(visit.promo.off)} off`}
          </Span>
        )}
      </Fact>
      {visit.payerName && <Fact label={t`Pays`}>{visit.payerName}</Fact>}
      <Fact label={t`Mobile`}>
        {visit.client.phone ? <a href={`tel:${visit.client.phone}`}>{visit.client.phone}</a> : t`none`}
      </Fact>
      <Fact label={t`E-mail`}>{visit.client.email ?? t`none`}</Fact>
      <Fact label={t`Reference`}>{visit.reference}</Fact>
      {visit.answers.map((answer) => (
        <Fact key={answer.questionId} label={answer.question}>
          {answer.kind === "file" ? (
            <Link
              href={`/api/v1/visits/${visit.id}/answers/${answer.questionId}/file`}
              download
              textDecoration="underline"
            >
              {answer.answer}
            </Link>
          ) : (
            inWords(answer)
          )}
        </Fact>
      ))}
      {visit.clientNote && <Fact label={t`From the client`}>{visit.clientNote}</Fact>}
      {visit.note && <Fact label={t`Note`}>{visit.note}</Fact>}
      {visit.cancelReason && (
        <Fact label={visit.cancelledBy === "business" ? t`Cancelled by us` : t`Cancelled`}>
          {visit.cancelReason}
          {visit.cancelledLate && ` (${t`too late: counts with the no-shows`})`}
        </Fact>
      )}
    </Box>
  );
}
