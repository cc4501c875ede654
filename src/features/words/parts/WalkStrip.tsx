import type { Stop } from "@/core/words/walk";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

/** The stops of a customer's way, in a row; on a phone they scroll. */
export function WalkStrip({ stops, here, href }: { stops: Stop[]; here: string; href: (key: string) => string }) {
  return (
    <nav aria-label="Steps" className="mt-4 overflow-x-auto">
      <ol className="border-rule bg-sheet flex min-w-max overflow-hidden rounded-[12px] border">
        {stops.map((stop) => (
          <li key={stop.key} className="border-rule grow border-l first:border-l-0">
            <Link
              href={href(stop.key)}
              scroll={false}
              aria-current={stop.key === here ? "step" : undefined}
              className={`block h-full min-w-[112px] px-3 py-2 ${stop.key === here ? "bg-mulberry-tint shadow-[inset_0_-3px_0_var(--color-mulberry)]" : ""}`}
            >
              <b className="block text-[14px] leading-snug">{stop.name}</b>
              <span className="text-second block text-[13px]">{stop.says}</span>
            </Link>
          </li>
        ))}
      </ol>
    </nav>
  );
}
