"use client";

import { useEffect } from "react";
import { newForBrowser } from "../actions";

const EVERY = 60_000;

/** Shows what is new as notifications of the browser, where it was allowed and somebody chose it. */
export function BrowserNotices({ slug }: { slug: string }) {
  useEffect(() => {
    if (!("Notification" in window) || Notification.permission !== "granted" || !localStorage.getItem("estima-notify"))
      return;
    const key = `estima-notified-${slug}`;
    const look = async () => {
      const since = Number(localStorage.getItem(key) ?? 0);
      const list = await newForBrowser(slug, since).catch(() => []);
      if (list.length === 0) return;
      // Noted first, so that another tab does not say it again.
      localStorage.setItem(key, String(Math.max(...list.map(({ at }) => at))));
      // Whoever has just chosen it is not told of what was before.
      if (since > 0)
        for (const { id, line, path } of list) {
          const shown = new Notification(line, { tag: id });
          shown.onclick = () => {
            window.focus();
            location.assign(path);
          };
        }
    };
    void look();
    const turn = setInterval(look, EVERY);
    return () => clearInterval(turn);
  }, [slug]);
  return null;
}
