import { capital, sayCount } from "@/core/time/say";
import { loadSetting } from "@/features/clients";
import { ServiceForm, TeamForm } from "@/features/clients/parts/NamedForms.client";
import { requireAccess } from "@/platform/access";
import { withClient } from "@/platform/database";
import { Note, Page } from "@/ui/Page";

export const metadata = { title: "Services and team" };

type Props = { params: Promise<{ client: string }> };

export default async function Services({ params }: Props) {
  const access = await requireAccess((await params).client, "set up");
  const { services, team } = await withClient(access, loadSetting);
  const { slug } = access.seat;
  const never = services.filter(({ neverAsk }) => neverAsk).length;
  return (
    <Page
      margin={
        <Note title="Unknown names">
          <p>
            Lists and feeds can call a service anything. When a new name turns up, you say once what it means, and we
            remember.
          </p>
        </Note>
      }
    >
      <h1 className="title">
        {capital(sayCount(services.filter(({ retired }) => !retired).length, "service"))}
        {never > 0 ? `, ${never} of them never asked about.` : "."}
      </h1>
      <ul className="divide-rule border-rule mt-5 divide-y border-y">
        {services.map((service) => (
          <li key={service.id} className="flex justify-between gap-4 py-2.5">
            <ServiceForm slug={slug} service={service} />
            <span className="text-second">
              {[service.neverAsk ? "never asked about" : "", service.retired ? "no longer offered" : ""]
                .filter(Boolean)
                .join(", ")}
            </span>
          </li>
        ))}
        <li className="py-2.5">
          <ServiceForm slug={slug} />
        </li>
      </ul>
      <h2 className="font-title mt-10 text-[21px] font-semibold">
        {capital(sayCount(team.filter(({ retired }) => !retired).length, "team member"))}
      </h2>
      <ul className="divide-rule border-rule mt-3 divide-y border-y">
        {team.map((member) => (
          <li key={member.id} className="flex justify-between gap-4 py-2.5">
            <TeamForm slug={slug} member={member} />
            <span className="text-second">{member.retired ? "no longer here" : ""}</span>
          </li>
        ))}
        <li className="py-2.5">
          <TeamForm slug={slug} />
        </li>
      </ul>
    </Page>
  );
}
