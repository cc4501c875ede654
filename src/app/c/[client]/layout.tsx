import type { Metadata } from "next";
import type { ReactNode } from "react";
import { articles } from "@/features/guide";
import { Masthead } from "@/features/navigation/parts/Masthead";
import { BrowserNotices } from "@/features/notices/parts/BrowserNotices.client";
import { requireSeat } from "@/platform/access";
import { Guide } from "@/ui/Guide.client";
import { KeptWords } from "@/ui/keptWords.client";
import { AllowedLinks } from "@/ui/PlaceLink.client";

type Props = { params: Promise<{ client: string }>; children: ReactNode };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { seat } = await requireSeat((await params).client);
  return { title: { default: seat.name, template: `%s · ${seat.name} · Estima` } };
}

export default async function ClientLayout({ params, children }: Props) {
  const access = await requireSeat((await params).client);
  return (
    <Guide articles={articles().map(({ slug, title, at }) => ({ slug, title, at }))}>
      <div className="flex min-h-dvh flex-col">
        <Masthead access={access} />
        <div className="flex grow flex-col pb-[60px] wide:pb-0">
          {access.seat.permissions.includes("see heard") ? <BrowserNotices slug={access.seat.slug} /> : null}
          <AllowedLinks permissions={access.seat.permissions}>{children}</AllowedLinks>
          <KeptWords />
        </div>
      </div>
    </Guide>
  );
}
