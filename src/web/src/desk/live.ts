import { HubConnectionBuilder, LogLevel } from "@microsoft/signalr";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

type DayChanged = { locationId: string | null; date: string | null };

/** Hears which days have changed and has what is on screen asked for again. */
export function useLive() {
  const queries = useQueryClient();
  useEffect(() => {
    const connection = new HubConnectionBuilder()
      .withUrl("/live")
      .withAutomaticReconnect({ nextRetryDelayInMilliseconds: () => 1000 })
      .configureLogging(LogLevel.None)
      .build();
    const lookAgain = ({ locationId, date }: DayChanged) => {
      void queries.invalidateQueries({ queryKey: locationId ? ["day", locationId, date] : ["day"] });
      for (const key of ["fullness", "starts", "visit", "history", "needs-place", "reasons"])
        void queries.invalidateQueries({ queryKey: [key] });
    };
    connection.on("changed", lookAgain);
    // Whoever changes the setup is not alone at it.
    connection.on(
      "setup",
      () => void queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "session" }),
    );
    connection.onreconnected(() => lookAgain({ locationId: null, date: null }));
    let stopped = false;
    const start = () => connection.start().catch(() => !stopped && setTimeout(start, 1000));
    void start();
    return () => {
      stopped = true;
      void connection.stop();
    };
  }, [queries]);
}
