import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { components } from "../../api/generated/schema";
import { asks } from "../../api/queries";
import { Problem } from "../../shared/problem";

export type Money = components["schemas"]["MoneyAnswer"];
export type Deposit = components["schemas"]["DepositAnswer"];

/** Something done with the money of a visit; then it is asked again how it stands. */
export function useMoney<A, T>(visitId: string, call: (arg: A) => Promise<T>, done?: (data: T) => void) {
  const queries = useQueryClient();
  const again = () => queries.invalidateQueries({ queryKey: [...asks.visit(visitId).queryKey, "money"] });
  return useMutation<T, Error, A>({
    mutationFn: call,
    onSuccess: (data) => {
      void again();
      done?.(data);
    },
    // What was refused was read from something that has changed since.
    onError: (error) => {
      if (error instanceof Problem && error.status === 409) void again();
    },
  });
}
