import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Business } from "../../api/setup";
import { TextField } from "../../shared/Field";
import { Box, Columns, Section } from "../../shared/layout";
import { PictureField } from "../../shared/pictures";
import { Press } from "../../shared/Press";

const most = 4;
type Pictures = NonNullable<Business["pictures"]>;
type Props = { pictures: Pictures; errors: Record<string, string>; onChange: (pictures: Pictures) => void };

/** The pictures of the business on the booking page, in order, each with what is to be seen. */
export function PicturesPart({ pictures, errors, onChange }: Props) {
  return (
    <Section
      title={t`Pictures of the booking page`}
      hint={t`Up to four, below your few words: the house, a room, the people. Whoever cannot see a picture hears its words.`}
    >
      {pictures.map((picture, i) => (
        <Box key={picture.pictureId} mb="3">
          <Columns least={240}>
            <PictureField
              label={t`Picture ${i + 1}`}
              id={picture.pictureId}
              onChange={(id) =>
                onChange(
                  id
                    ? pictures.map((other, j) => (j === i ? { ...other, pictureId: id } : other))
                    : pictures.filter((_, j) => j !== i),
                )
              }
            />
            <TextField
              label={t`What picture ${i + 1} shows`}
              value={picture.words ?? ""}
              error={errors[`pictures[${i}].words`] ?? errors[`pictures[${i}].pictureId`]}
              onChange={(event) =>
                onChange(pictures.map((other, j) => (j === i ? { ...other, words: event.target.value } : other)))
              }
            />
          </Columns>
          {i > 0 && (
            <Press
              size="small"
              look="quiet"
              onClick={() =>
                onChange([...pictures.slice(0, i - 1), picture, pictures[i - 1]!, ...pictures.slice(i + 1)])
              }
            >
              <Trans>Put it before picture {i}</Trans>
            </Press>
          )}
        </Box>
      ))}
      {pictures.length < most && (
        <PictureField
          key={pictures.length}
          label={pictures.length > 0 ? t`One more picture` : t`A picture`}
          id={null}
          onChange={(id) => id && onChange([...pictures, { pictureId: id, words: "" }])}
        />
      )}
    </Section>
  );
}
