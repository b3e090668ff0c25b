import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { andWords } from "../../../shared/format";
import type { Shift } from "../../../api/setup";
import { ManyPart } from "../../../shared/sentence/ManyPart";
import { Sentence } from "../../../shared/sentence/Sentence";
import { useDeskSetup } from "../../../shared/today";

/** For which services and categories a shift is kept; for all of them where none is named. */
export function KeptFor({ shift, onChange }: { shift: Shift; onChange: (shift: Shift) => void }) {
  const { categories, services } = useDeskSetup();
  const chosen = [...(shift.categoryIds ?? []), ...(shift.serviceIds ?? [])];
  const options = [
    ...categories.map(({ id, name }) => ({ value: id, label: name })),
    ...services.map(({ id, name }) => ({ value: id, label: name })),
  ];
  const names = chosen.flatMap((id) => options.find((option) => option.value === id)?.label ?? []);
  return (
    <Sentence size="text">
      <Trans>
        This shift is for{" "}
        <ManyPart
          label={t`Kept for`}
          words={names.length === 0 ? t`every service` : t`${andWords(names)} only`}
          options={options}
          values={chosen}
          onChange={(values) =>
            onChange({
              ...shift,
              categoryIds: values.filter((id) => categories.some((category) => category.id === id)),
              serviceIds: values.filter((id) => services.some((service) => service.id === id)),
            })
          }
        />
        .
      </Trans>
    </Sentence>
  );
}
