import { useMutation, useQueryClient } from "@tanstack/react-query";
import { refreshClient } from "../../../api/refresh";

/** Something that is done to a client's record; afterwards everything that names them is asked again. */
export function useWriting<A, T>(call: (arg: A) => Promise<T>, done?: (answer: T) => void) {
  const queries = useQueryClient();
  return useMutation<T, Error, A>({
    mutationFn: call,
    onSuccess: (answer) => {
      refreshClient(queries);
      done?.(answer);
    },
  });
}
