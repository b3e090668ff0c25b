import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { visitors } from "../../../api/public";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";

const Box = chakra("div");
const askedAgain = 2_000;

/** What has become of a deposit, once somebody is back from the card page. */
export function PaidStep({ id, onOver }: { id: string; onOver: (words: string) => void }) {
  const paid = useQuery({
    queryKey: ["mine", "paid", id],
    queryFn: () => answerOf(visitors.POST("/api/public/v1/mine/visits/{id}/paid", { params: { path: { id } } })),
    refetchInterval: (query) => (query.state.data?.state === "settling" ? askedAgain : false),
    retry: false,
    staleTime: 0,
    gcTime: 0,
  });
  const state = paid.data?.state;
  const because = paid.data?.because;
  useEffect(() => {
    if (state === "taken") onOver(t`Thank you, the deposit is paid.`);
    else if (state && state !== "settling") onOver(because ?? t`Nothing was paid yet.`);
  }, [state, because, onOver]);
  return (
    <Box>
      <Box as="h1" fontSize="page">
        {state === "settling" ? t`One moment, your bank is asked …` : t`One moment …`}
      </Box>
      {paid.error && (
        <Box role="alert">
          {paid.error.message}{" "}
          <Press onClick={() => void paid.refetch()}>
            <Trans>Try again</Trans>
          </Press>
        </Box>
      )}
    </Box>
  );
}
