/** The reasons a refusal carries, as sentences. */
export function Reasons({ body }: { body: Record<string, unknown> }) {
  const reasons = (body["reasons"] ?? []) as { text: string }[];
  return (
    <>
      {reasons
        .slice(0, 3)
        .map((reason) => reason.text)
        .join(" ")}
    </>
  );
}
