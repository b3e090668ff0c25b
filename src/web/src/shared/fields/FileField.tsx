import { chakra } from "@chakra-ui/react";
import { useId, useState, type DragEvent, type ReactNode } from "react";
import { Box, Row, Span } from "../layout";

const Label = chakra("label");
const Hidden = chakra("input", { base: { srOnly: true } });
const Drop = chakra("div", {
  base: {
    position: "relative",
    display: "inline-flex",
    alignItems: "center",
    gap: "10px",
    flexWrap: "wrap",
    borderRadius: "card",
    "&[data-over]": { bg: "glow" },
    "&:focus-within label": { outline: "3px solid", outlineColor: "focus", outlineOffset: "1px" },
  },
});
const Choose = chakra("label", {
  base: {
    display: "inline-flex",
    alignItems: "center",
    minH: "36px",
    px: "14px",
    bg: "sheet",
    borderWidth: "1px",
    borderColor: "edge",
    borderRadius: "card",
    fontWeight: "600",
    cursor: "pointer",
    _hover: { bg: "paper" },
    "&[data-off]": { opacity: 0.55, cursor: "not-allowed" },
  },
});

type Props = {
  label: string;
  /** What the button says. */
  choose: string;
  accept: string;
  disabled?: boolean;
  error?: string | undefined;
  /** What was chosen, in words. */
  chosen?: ReactNode;
  onFile: (file: File) => void;
};

/** A file, chosen or dropped. */
export function FileField({ label, choose, accept, disabled = false, error, chosen, onFile }: Props) {
  const id = useId();
  const [over, setOver] = useState(false);
  const take = (files: FileList | null | undefined) => {
    const file = files?.[0];
    if (file && !disabled) onFile(file);
  };
  const drag = (event: DragEvent, isOver: boolean) => {
    event.preventDefault();
    setOver(isOver);
  };
  return (
    <Box>
      <Label htmlFor={id} fontWeight="600" fontSize="14px" display="block" mb="3px">
        {label}
      </Label>
      <Drop
        data-over={over ? "" : undefined}
        onDragOver={(event) => drag(event, true)}
        onDragLeave={(event) => drag(event, false)}
        onDrop={(event) => {
          drag(event, false);
          take(event.dataTransfer.files);
        }}
      >
        <Hidden
          id={id}
          type="file"
          accept={accept}
          disabled={disabled}
          aria-invalid={error !== undefined}
          aria-describedby={error ? `${id}-note` : undefined}
          onChange={(event) => {
            take(event.target.files);
            // The same file may be chosen again once it was mended.
            event.target.value = "";
          }}
        />
        <Choose htmlFor={id} data-off={disabled ? "" : undefined} aria-hidden>
          {choose}
        </Choose>
        <Span>{chosen}</Span>
      </Drop>
      {error && (
        <Row id={`${id}-note`} role="alert" color="clay" fontSize="14px" mt="3px">
          {error}
        </Row>
      )}
    </Box>
  );
}
