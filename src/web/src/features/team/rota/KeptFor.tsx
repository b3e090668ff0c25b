import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { andWords } from "../../../shared/format";
import type { Shift } from "../../../api/setup";
import type { DeskSetup } from "../../../api/staff";
import { ManyPart } from "../../../shared/sentence/ManyPart";
import { Sentence } from "../../../shared/sentence/Sentence";
import { useDeskSetup } from "../../../shared/today";
import { whole } from "../../../shared/whole";

type Props = { shift: Shift; onChange: (shift: Shift) => void };

/** For which services and categories a shift is kept; for all of them where none is named. */
export const KeptFor = (props: Props) => (
  <Sentence size="text">
    <Trans>This shift is for {whole(<KeptForPart {...props} />)}.</Trans>
  </Sentence>
);

/** The part of a sentence that says it. */
export function KeptForPart({ shift, onChange }: Props) {
  const setup = useDeskSetup();
  const { categories, services } = setup;
  return (
    <ManyPart
      label={t`Kept for`}
      words={keptWords(shift, setup)}
      options={[...categories, ...services].map(({ id, name }) => ({ value: id, label: name }))}
      values={[...(shift.categoryIds ?? []), ...(shift.serviceIds ?? [])]}
      onChange={(values) =>
        onChange({
          ...shift,
          categoryIds: values.filter((id) => categories.some((category) => category.id === id)),
          serviceIds: values.filter((id) => services.some((service) => service.id === id)),
        })
      }
    />
  );
}

/** For which services a shift is kept, in words: "every service", "Massage only". */
export const keptWords = (shift: Shift, { categories, services }: Pick<DeskSetup, "categories" | "services">) => {
  const chosen = [...(shift.categoryIds ?? []), ...(shift.serviceIds ?? [])];
  const names = chosen.flatMap((id) => [...categories, ...services].find((one) => one.id === id)?.name ?? []);
  return names.length === 0 ? t`every service` : t`${andWords(names)} only`;
};
