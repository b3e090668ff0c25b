import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import type { Business } from "../../../api/public";
import { visitorsAsk } from "../../../api/visitorQueries";
import { askAnew } from "../../../shared/askAnew";
import { useKeptHere } from "../../../shared/keptHere";
import { Problem } from "../../../shared/problem";
import { shownHere } from "../../../shared/shownHere";

type Chosen = { as: string | null; isNobody: boolean };
const nobody: { id: string; name: string; isLinked: boolean }[] = [];
const unsaid: Chosen = { as: null, isNobody: false };

/**
 * As whom somebody books: as one of those they have shown to be on this device, or as nobody who is known. The server is asked only
 * where somebody has shown themselves before.
 */
export function useAsWhom(access: Business["access"]) {
  const queries = useQueryClient();
  const who = useQuery({ ...visitorsAsk.who(), enabled: shownHere.is() });
  const [chosen, setChosen] = useKeptHere<Chosen>("kingcup-as", unsaid);
  const people = (access.knownPeople && who.data?.people) || nobody;
  // Whoever is one person books for themselves, unless they say otherwise.
  const own = people.filter((one) => !one.isLinked);
  const only = own.length === 1 ? own[0]! : null;
  const person = chosen.isNobody ? null : (people.find((one) => one.id === chosen.as) ?? only);
  return {
    access,
    /** Whether it is still being found out who they are. */
    isAsking: who.isLoading,
    people,
    /** Whether they may book who are nobody that is known. */
    mayBookAsNew: access.guests || who.data?.mayBookAsNew === true,
    /** The address they have shown to be theirs, or null. */
    proven: who.data?.address ? { address: who.data.address, isEmail: who.data.isEmail } : null,
    person,
    choose: (as: string | null) => setChosen({ as, isNobody: as === null }),
    /** What was shown does not count any more. */
    lost: () => void askAnew(queries, { queryKey: visitorsAsk.who().queryKey }),
    /** Somebody has just shown who they are. */
    shown: () => {
      shownHere.set(true);
      setChosen(null);
      return queries.fetchQuery({ ...visitorsAsk.who(), staleTime: 0 });
    },
  };
}

export type AsWhom = ReturnType<typeof useAsWhom>;

/** Goes on as somebody who has shown nothing, once the server says that what they had shown does not count any more. */
export function useLost({ lost }: AsWhom, error: Error | null) {
  const isOut = error instanceof Problem && error.status === 401;
  useEffect(() => {
    if (isOut) lost();
  }, [isOut, lost]);
}
