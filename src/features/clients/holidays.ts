import Holidays from "date-holidays";
import { parseDay } from "@/core/time/zone";

const known = new Map<string, ReadonlySet<number>>();

/** Day numbers of a country's public holidays from the year before `year` to the year after. Empty for an unknown country. */
export function holidaysOf(country: string, year: number): ReadonlySet<number> {
  const name = `${country} ${year}`;
  let days = known.get(name);
  if (!days) {
    const calendar = new Holidays(country);
    const around = [year - 1, year, year + 1].flatMap((each) => calendar.getHolidays(each) || []);
    days = new Set(around.filter(({ type }) => type === "public").map(({ date }) => parseDay(date.slice(0, 10))));
    known.set(name, days);
  }
  return days;
}
