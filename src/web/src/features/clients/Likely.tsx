import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { Link } from "react-router";
import type { components } from "../../api/generated/schema";
import { andWords } from "../../shared/format";
import { likeness } from "./likes";

const Anchor = chakra(Link, { base: { textDecoration: "underline", fontWeight: "600" } });

/** That somebody is likely entered twice, why, and the way to look at both. */
export function Likely({ pair, id }: { pair: components["schemas"]["LikenessAnswer"]; id: string }) {
  const other = pair.kept.id === id ? pair.gone : pair.kept;
  return (
    <>
      <Trans>
        Likely the same person as {other.givenName} {other.familyName}:{" "}
        {andWords(pair.reasons.map((reason) => likeness[reason]))}.
      </Trans>{" "}
      <Anchor to={`/clients/${pair.kept.id}/beside/${pair.gone.id}`}>
        <Trans>Look at both</Trans>
      </Anchor>
    </>
  );
}
