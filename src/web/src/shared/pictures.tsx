import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useState } from "react";
import { pictureOf } from "../api/setup";
import { staff } from "../api/staff";
import { answerOf } from "./problem";

import { FileField } from "./fields/FileField";
import { Box, Row, Span } from "./layout";
import { Press } from "./Press";
import { Problem } from "./problem";

const Img = chakra("img");

/** A picture: shown, replaced, taken away. Checked and made smaller by the server. */
export function PictureField({
  label,
  id,
  onChange,
  round,
}: {
  label: string;
  id: string | null | undefined;
  onChange: (id: string | null) => void;
  round?: boolean;
}) {
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const upload = async (file: File) => {
    setBusy(true);
    setProblem(undefined);
    const form = new FormData();
    form.append("file", file);
    try {
      onChange((await answerOf(staff.POST("/api/v1/setup/pictures", { body: form as never }))).id);
    } catch (error) {
      setProblem(error instanceof Problem ? error.message : t`The picture could not be sent. Try again.`);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Box>
      <Row flexWrap="nowrap">
        {id && (
          <Img
            src={pictureOf(id)}
            alt=""
            w="18"
            h="18"
            objectFit="cover"
            borderRadius={round ? "50%" : "card"}
            borderWidth="line"
            borderColor="line"
          />
        )}
        <Box minW="0">
          <FileField
            label={label}
            choose={id ? t`Another picture` : t`Choose a picture`}
            accept="image/jpeg,image/png,image/webp,image/gif"
            disabled={busy}
            error={problem}
            chosen={busy ? t`Sending …` : undefined}
            onFile={(file) => void upload(file)}
          />
          {id && (
            <Press size="small" look="quiet" onClick={() => onChange(null)}>
              <Trans>Take it away</Trans>
            </Press>
          )}
        </Box>
      </Row>
    </Box>
  );
}

/** Somebody's photo, or initials on their tint. */
export function Face({
  name,
  photoId,
  tint,
  size = 36,
}: {
  name: string;
  photoId?: string | null | undefined;
  tint: number;
  size?: number;
}) {
  const side = `${size}px`;
  if (photoId)
    return (
      <Img src={pictureOf(photoId)} alt="" w={side} h={side} objectFit="cover" borderRadius="50%" flexShrink={0} />
    );
  const initials = name
    .split(/\s+/)
    .map((word) => word[0] ?? "")
    .slice(0, 2)
    .join("");
  return (
    <Span
      display="inline-grid"
      placeItems="center"
      w={side}
      h={side}
      borderRadius="50%"
      bg={`tint${tint % 7}`}
      fontWeight="700"
      fontSize={`${Math.round(size / 2.6)}px`}
      flexShrink={0}
      aria-hidden
    >
      {initials}
    </Span>
  );
}
