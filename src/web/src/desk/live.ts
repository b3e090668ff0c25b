import { HubConnectionBuilder, LogLevel } from "@microsoft/signalr";
import { useQueryClient } from "@tanstack/react-query";
import { refreshBook, refreshSetup } from "../api/refresh";
import { useEffect, useState } from "react";
import { presence, type Present } from "../shared/presence";

type DayChanged = { locationId: string | null; date: string | null };

/** A connection that is back within this many milliseconds was never missed. */
const patience = 4000;

/** Hears which days have changed and has what is on screen asked for again. False while nothing is heard. */
export function useLive(): boolean {
  const queries = useQueryClient();
  const [isLive, setLive] = useState(true);
  useEffect(() => {
    const connection = new HubConnectionBuilder()
      .withUrl("/live")
      .withAutomaticReconnect({ nextRetryDelayInMilliseconds: () => 1000 })
      .configureLogging(LogLevel.None)
      .build();
    const lookAgain = ({ locationId, date }: DayChanged) => {
      refreshBook(queries, locationId, date);
    };
    connection.on("changed", lookAgain);
    connection.on("present", (one: Present) => presence.hear(one));
    // Whoever changes the setup is not alone at it.
    connection.on("setup", () => refreshSetup(queries));
    let stopped = false;
    let missing: ReturnType<typeof setTimeout> | undefined;
    const miss = () => {
      missing ??= setTimeout(() => setLive(false), patience);
    };
    const hear = () => {
      clearTimeout(missing);
      missing = undefined;
      setLive(true);
    };
    connection.onreconnecting(miss);
    const say = (visitId: string | null) => void connection.invoke("Open", visitId).catch(() => undefined);
    connection.onreconnected(() => {
      hear();
      presence.connect(say);
      lookAgain({ locationId: null, date: null });
    });
    const start = () =>
      connection.start().then(
        () => {
          hear();
          presence.connect(say);
        },
        () => {
          if (stopped) return;
          miss();
          setTimeout(start, 1000);
        },
      );
    void start();
    return () => {
      stopped = true;
      presence.connect(null);
      clearTimeout(missing);
      void connection.stop();
    };
  }, [queries]);
  return isLive;
}
