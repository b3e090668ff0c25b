import { t } from "@lingui/core/macro";
import { whole } from "../../../shared/whole";
import { Trans } from "@lingui/react/macro";
import { WordsField } from "../../../shared/fields/WordsField";
import { TextField } from "../../../shared/Field";
import { andWords } from "../../../shared/format";
import { Part } from "../../../shared/sentence/Sentence";
import { replaced, type BeginRoom } from "./beginning";

import type { GuideProps } from "./guideProps";
import { Add, joined, Panel } from "./Panel";
/** The rooms, and what they have. */
export function RoomsLine({ draft, errors, onChange }: GuideProps) {
  const rooms = draft.rooms ?? [];
  const set = (i: number, room: BeginRoom | null) => onChange({ rooms: replaced(rooms, i, room) });
  const features = [...new Set(rooms.flatMap((room) => room.features ?? []))];
  const panel = (i: number, close: () => void) => (
    <Panel close={close} onRemove={() => set(i, null)}>
      <TextField
        label={t`Name on the door`}
        value={rooms[i]?.name ?? ""}
        error={errors[`rooms[${i}].name`]}
        autoFocus
        onChange={(event) => set(i, { ...rooms[i]!, name: event.target.value })}
      />
      <WordsField
        label={t`What it has`}
        words={rooms[i]?.features ?? []}
        offered={features}
        onChange={(words) => set(i, { ...rooms[i]!, features: words })}
      />
    </Panel>
  );
  return (
    <>
      <Trans>
        We have{" "}
        {joined(
          rooms.map((room, i) => (
            <Part
              key={i}
              label={t`Room ${i + 1}`}
              words={
                (room.features ?? []).length > 0
                  ? t`${room.name || t`a room`} with ${andWords([...room.features!])}`
                  : room.name || t`a room`
              }
            >
              {(close) => panel(i, close)}
            </Part>
          )),
          t`, and `,
        )}
        {whole(
          <Add
            label={t`Another room`}
            words={t`another room?`}
            onAdd={() => set(rooms.length, { name: "", features: [] })}
          >
            {(close) => panel(rooms.length - 1, close)}
          </Add>,
        )}
      </Trans>
    </>
  );
}
