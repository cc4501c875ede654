"use client";

import { useRouter } from "next/navigation";
import { useEffect } from "react";

/** Reads the page anew every so often while it is looked at, so that it stays true. */
export function LiveRefresh({ seconds }: { seconds: number }) {
  const router = useRouter();
  useEffect(() => {
    const timer = setInterval(() => {
      if (document.visibilityState === "visible" && !document.querySelector("[role=dialog]")) router.refresh();
    }, seconds * 1000);
    return () => clearInterval(timer);
  }, [router, seconds]);
  return null;
}
