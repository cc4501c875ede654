import type { Theme } from "@/core/themes/themes";
import { translate } from "./translate";

/** A theme as it stands at the head of a line: "Booking and phone". */
export const themeWords = (theme: Theme): string => translate("theme", theme);
