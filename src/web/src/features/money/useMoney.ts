import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import type { components } from "../../api/generated/schema";
import { asks } from "../../api/queries";
import { askAnew } from "../../shared/askAnew";
import { Problem } from "../../shared/problem";

export type Money = components["schemas"]["MoneyAnswer"];
export type Deposit = components["schemas"]["DepositAnswer"];

/** Has the money of a visit asked for again. */
export function useMoneyAgain(visitId: string) {
  const queries = useQueryClient();
  return useCallback(
    () => void askAnew(queries, { queryKey: [...asks.visit(visitId).queryKey, "money"] }),
    [queries, visitId],
  );
}

/** Something done with the money of a visit; then it is asked again how it stands. */
export function useMoney<A, T>(visitId: string, call: (arg: A) => Promise<T>, done?: (data: T) => void) {
  const again = useMoneyAgain(visitId);
  return useMutation<T, Error, A>({
    mutationFn: call,
    onSuccess: (data) => {
      again();
      done?.(data);
    },
    // What was refused was read from something that has changed since.
    onError: (error) => {
      if (error instanceof Problem && error.status === 409) again();
    },
  });
}
