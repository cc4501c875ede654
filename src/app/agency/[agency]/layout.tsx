import type { Metadata } from "next";
import type { ReactNode } from "react";
import { articles } from "@/features/guide";
import { AgencyMasthead } from "@/features/navigation/parts/AgencyMasthead";
import { requireAgency } from "@/platform/access";
import { Guide } from "@/ui/Guide.client";

type Props = { params: Promise<{ agency: string }>; children: ReactNode };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { seat } = await requireAgency((await params).agency);
  return { title: { default: seat.name, template: `%s · ${seat.name} · Estima` } };
}

export default async function AgencyLayout({ params, children }: Props) {
  const access = await requireAgency((await params).agency);
  return (
    <Guide articles={articles().map(({ slug, title, at }) => ({ slug, title, at }))}>
      <div className="flex min-h-dvh flex-col">
        <AgencyMasthead access={access} />
        <div className="flex grow flex-col pb-[60px] wide:pb-0">{children}</div>
      </div>
    </Guide>
  );
}
