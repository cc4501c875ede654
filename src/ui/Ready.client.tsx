"use client";

import { useEffect } from "react";

/** Marks on the document that the page's buttons work, for whoever drives the browser from outside. */
export function Ready() {
  useEffect(() => {
    document.documentElement.dataset.ready = "yes";
  }, []);
  return null;
}
