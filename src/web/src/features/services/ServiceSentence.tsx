import { t } from "@lingui/core/macro";
import { whole } from "../../shared/whole";
import { Trans } from "@lingui/react/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { asks } from "../../api/queries";
import type { Rules } from "../../api/setup";
import { MinutesField } from "../../shared/fields/MinutesField";
import { andWords, money } from "../../shared/format";
import { MoneyField, NumberField } from "../../shared/inputs";
import { daysWordsOf, lengthWords } from "../../shared/lengthWords";
import { Plain } from "../../shared/Plain";
import { After } from "../../shared/sentence/After";
import { ChoicePart, Part, Sentence } from "../../shared/sentence/Sentence";
import { SmallForm } from "../../shared/sentence/SmallForm";
import { useDeskSetup } from "../../shared/today";
import { sentence } from "../../theme/recipes/sentence";
import { useEquipment } from "../rooms/rooms";
import { usePractitioners } from "../team/team";
import { gridWords, minutesOf, type Part as ServicePart, type PartName } from "./words";

type Props = ServicePart & { locationId: string | null; onPart: (part: PartName) => void };

/** The service as a sentence: what it is, what it takes, what it costs and who may book it. */
export function ServiceSentence({ draft, set, errors, locationId, onPart }: Props) {
  const setup = useDeskSetup();
  const pools = useEquipment();
  const phases = draft.phases ?? [];
  const away = phases
    .filter((phase) => !(phase.attendedBy ?? []).includes(0))
    .reduce((sum, phase) => sum + phase.minutes, 0);
  const used = [...new Set(phases.flatMap((phase) => (phase.equipment ?? []).map((need) => need.poolId)))];
  const names = used.map((id) => pools.data?.find((pool) => pool.id === id)?.name ?? "").filter(Boolean);
  const features = draft.room?.features ?? [];
  const part = (name: PartName, words: ReactNode) => <TabPart words={words} onPress={() => onPart(name)} />;
  return (
    <Sentence>
      <Trans>
        <ChoicePart
          label={t`For`}
          words={draft.kind === "group" ? t`A group of ${draft.seats}` : t`One client`}
          options={[
            { value: "oneToOne", label: t`One client` },
            { value: "group", label: t`A group with seats` },
          ]}
          value={draft.kind}
          onChange={(kind) =>
            set({ kind: kind as "oneToOne" | "group", seats: kind === "group" ? Math.max(2, draft.seats) : 1 })
          }
        />
        {draft.kind === "group" && (
          <>
            {" ("}
            <Part label={t`Seats`} words={t`${draft.seats} seats`}>
              {(close) => (
                <SmallForm onDone={close}>
                  <NumberField
                    label={t`Seats`}
                    min={1}
                    value={draft.seats}
                    error={errors["seats"]}
                    onChange={(seats) => set({ seats: seats ?? 1 })}
                  />
                </SmallForm>
              )}
            </Part>
            {")"}
          </>
        )}{" "}
        for{" "}
        {whole(
          <Part label={t`Length`} words={lengthWords(minutesOf(draft))}>
            {(close) => (
              <SmallForm onDone={close}>
                {phases.map((phase, i) => (
                  <MinutesField
                    key={i}
                    label={phases.length > 1 ? t`Phase ${i + 1}` : t`Minutes`}
                    value={phase.minutes}
                    error={errors[`phases[${i}].minutes`]}
                    onChange={(minutes) =>
                      set({ phases: phases.map((other, j) => (j === i ? { ...other, minutes: minutes ?? 0 } : other)) })
                    }
                  />
                ))}
              </SmallForm>
            )}
          </Part>,
        )}
        {away > 0 && t`, of which the practitioner may leave for ${away}`}, then{" "}
        {whole(
          <Part
            label={t`Buffer after`}
            differs={draft.bufferAfterMinutes > 0}
            words={draft.bufferAfterMinutes === 0 ? t`nothing` : String(draft.bufferAfterMinutes)}
          >
            {(close) => (
              <SmallForm onDone={close}>
                <MinutesField
                  label={t`Buffer after (min)`}
                  value={draft.bufferAfterMinutes}
                  error={errors["bufferAfterMinutes"]}
                  onChange={(minutes) => set({ bufferAfterMinutes: minutes ?? 0 })}
                />
                <MinutesField
                  label={t`Buffer before (min)`}
                  value={draft.bufferBeforeMinutes}
                  error={errors["bufferBeforeMinutes"]}
                  onChange={(minutes) => set({ bufferBeforeMinutes: minutes ?? 0 })}
                />
              </SmallForm>
            )}
          </Part>,
        )}{" "}
        to tidy up
        {whole(
          draft.room ? (
            <>
              <Trans>
                , in {part("where", features.length > 0 ? t`a room with ${andWords(features)}` : t`any room`)}
              </Trans>
            </>
          ) : (
            <>, {part("where", t`without a room`)}</>
          ),
        )}
        {names.length > 0 && t`, with ${andWords(names)}`}, by {part("who", <WhoWords draft={draft} />)}. It costs{" "}
        {whole(
          draft.priceForm === "free" || draft.priceForm === "onRequest" ? (
            part("price", draft.priceForm === "free" ? t`nothing` : t`a price on request`)
          ) : (
            <Part label={t`Price`} words={priceWords(draft, setup.currency)}>
              {(close) => (
                <SmallForm onDone={close}>
                  <MoneyField
                    label={t`Price`}
                    currency={setup.currency}
                    value={draft.price}
                    error={errors["price"]}
                    onChange={(price) => set({ price: price ?? 0 })}
                  />
                </SmallForm>
              )}
            </Part>
          ),
        )}
        . <OnlineWords draft={draft} locationId={locationId} part={part} />
      </Trans>
    </Sentence>
  );
}

const priceWords = (draft: ServicePart["draft"], currency: string) =>
  [
    draft.priceForm === "from" && "from",
    money({ amount: draft.price, currency }),
    draft.priceForm === "hourly" && t`an hour`,
  ]
    .filter(Boolean)
    .join(" ");

/** A part of the sentence that is changed further down, in the part of the page it opens. */
function TabPart({ words, onPress }: { words: ReactNode; onPress: () => void }) {
  const styles = useSlotRecipe({ recipe: sentence })();
  return (
    <>
      <Plain css={styles["part"]} onClick={onPress}>
        {words}
      </Plain>
      <After />
    </>
  );
}

function WhoWords({ draft }: Pick<ServicePart, "draft">) {
  const qualifications = useQuery(asks.qualifications());
  const people = usePractitioners();
  const said = (draft.roles ?? []).map((role) => {
    const held = (role.qualifications ?? []).map(
      (id) => qualifications.data?.find((other) => other.id === id)?.name ?? "",
    );
    const added = (role.added ?? []).map((id) => people.data?.find((other) => other.id === id)?.name ?? "");
    const by = held.length > 0 ? [t`whoever holds ${andWords(held)}`] : [];
    return andWords([...by, ...(added.length > 3 ? [t`${added.length} people`] : added)]) || t`nobody yet`;
  });
  return <>{said.join("; with ")}</>;
}

function OnlineWords({
  draft,
  locationId,
  part,
}: Pick<ServicePart, "draft"> & { locationId: string | null; part: (name: PartName, words: ReactNode) => ReactNode }) {
  const wider = useQuery(asks.rules({ ...(locationId ? { locationId } : {}), categoryId: draft.categoryId }));
  const of = <K extends keyof Rules>(rule: K) => draft.online?.[rule] ?? wider.data?.values[rule];
  if (draft.visibility === "hidden")
    return (
      <>
        <Trans>{part("online", t`Nobody`)} sees it online.</Trans>
      </>
    );
  if (draft.visibility === "byPhone")
    return (
      <>
        <Trans>Everyone sees it, and it is booked {part("online", t`by telephone only`)}.</Trans>
      </>
    );
  const whom = { everyone: t`Everyone`, newOnly: t`New clients`, returningOnly: t`Clients who have been here` }[
    draft.for
  ];
  return (
    <>
      <Trans>
        {part("online", draft.visibility === "withLink" ? t`${whom} with the link` : whom)} may book it online,{" "}
        {part("rules", lengthWords(Number(of("leadMinutes") ?? 0)))} to{" "}
        {part("rules", daysWordsOf(Number(of("horizonDays") ?? 0)))} ahead,{" "}
        {part("rules", gridWords({ grid: of("grid"), everyMinutes: of("everyMinutes") }))}.
      </Trans>
    </>
  );
}
