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
    gap: "2.5",
    flexWrap: "wrap",
    borderRadius: "card",
    "&[data-over]": { bg: "glow" },
    "&:focus-within label": { outlineStyle: "solid", outlineWidth: "mark", outlineColor: "focus" },
  },
});
const Choose = chakra("label", {
  base: {
    display: "inline-flex",
    alignItems: "center",
    minH: "9",
    px: "3.5",
    bg: "sheet",
    borderWidth: "line",
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
      <Label htmlFor={id} fontWeight="600" fontSize="small" display="block" mb="0.5">
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
        <Row id={`${id}-note`} role="alert" color="clay" fontSize="small" mt="0.5">
          {error}
        </Row>
      )}
    </Box>
  );
}
