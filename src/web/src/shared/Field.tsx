import { chakra } from "@chakra-ui/react";
import { useId, type ComponentProps, type ReactNode } from "react";

const Box = chakra("div");
const Label = chakra("label");
const Text = chakra("span");
const control = {
  w: "100%",
  minH: "9",
  px: "2.5",
  py: "1.5",
  bg: "sheet",
  borderWidth: "line",
  borderStyle: "solid",
  borderColor: "edge",
  borderRadius: "card",
  "&[aria-invalid=true]": { borderColor: "clay", borderWidth: "mark" },
} as const;
const Input = chakra("input", { base: control });
const Select = chakra("select", { base: control });
const Area = chakra("textarea", { base: control });

type Frame = { label: string; error?: string | undefined; hint?: string | undefined };
type Control = { id: string; "aria-invalid": boolean; "aria-describedby": string | undefined };

function Framed({ label, error, hint, children }: Frame & { children: (control: Control) => ReactNode }) {
  const id = useId();
  const note = error ?? hint;
  return (
    <Box>
      <Label htmlFor={id} fontWeight="600" fontSize="small" display="block" mb="0.5">
        {label}
      </Label>
      {children({ id, "aria-invalid": error !== undefined, "aria-describedby": note ? `${id}-note` : undefined })}
      {note && (
        <Text
          id={`${id}-note`}
          role={error ? "alert" : undefined}
          display="block"
          mt="0.5"
          fontSize="small"
          color={error ? "clay" : "quiet"}
        >
          {note}
        </Text>
      )}
    </Box>
  );
}

/** A labelled input with its error beside it. */
export const TextField = ({ label, error, hint, ...rest }: Frame & ComponentProps<typeof Input>) => (
  <Framed label={label} error={error} hint={hint}>
    {(props) => <Input {...rest} {...props} />}
  </Framed>
);

/** A labelled choice. */
export const SelectField = ({ label, error, hint, ...rest }: Frame & ComponentProps<typeof Select>) => (
  <Framed label={label} error={error} hint={hint}>
    {(props) => <Select {...rest} {...props} />}
  </Framed>
);

/** A labelled text of several lines. */
export const AreaField = ({ label, error, hint, ...rest }: Frame & ComponentProps<typeof Area>) => (
  <Framed label={label} error={error} hint={hint}>
    {(props) => <Area rows={2} {...rest} {...props} />}
  </Framed>
);
