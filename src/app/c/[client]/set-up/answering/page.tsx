import { may } from "@/core/access/permissions";
import { nextOpen } from "@/core/time/officeHours";
import { sayDay } from "@/core/time/say";
import { LANGUAGE_NAMES, LANGUAGES } from "@/core/words/languages";
import { loadSetting, officeCalendarOf, type Setting, todayOf } from "@/features/clients";
import { AnswerTimesSentence, OfficeHoursSentence } from "@/features/clients/parts/AnsweringSentences.client";
import { listAbsences, listOwnerRules } from "@/features/concerns";
import { AbsenceSentence, NewMemberOwner, OwnerSentence } from "@/features/concerns/parts/OwnerSentences.client";
import { awayWords, sayOpening } from "@/features/conversations";
import { AwaySentence } from "@/features/conversations/parts/ConversationSentences.client";
import { staffOf } from "@/features/notices";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Answering" };

type Props = { params: Promise<{ client: string }> };

/** When somebody is there, how fast people are answered, whose their concerns are, and who stands in for whom. */
export default async function Answering({ params }: Props) {
  const access = await requireAccess((await params).client, "set up");
  const now = await clockNow();
  const { slug } = access.seat;
  const { setting, rules, absences, staff } = await withClient(access, async (tx) => ({
    setting: await loadSetting(tx),
    rules: await listOwnerRules(tx, access),
    absences: await listAbsences(tx, access),
    staff: (await staffOf(tx)).filter((one) => may(one, "answer concerns")).map(({ id, name }) => ({ id, name })),
  }));
  const { client, branches, team } = setting;
  const today = todayOf(setting, now);
  const ownerOf = (branchId: string | null, teamMemberId: string | null) => {
    const rule = rules.find((one) => one.branchId === branchId && one.teamMemberId === teamMemberId);
    return staff.find(({ id }) => id === rule?.userId) ?? null;
  };
  const ruled = team.filter(({ id }) => rules.some(({ teamMemberId }) => teamMemberId === id));
  const away = (id: string) => absences.find(({ userId, until }) => userId === id && until >= today) ?? null;
  return (
    <Page
      margin={
        <>
          <Note title="Office hours">
            <p>
              Only office hours count: if you allow four hours, a concern that comes in at 16:00 on Friday is due on
              Monday. We remind its owner halfway through, the manager when time’s up and the agency a day later.
            </p>
          </Note>
          <Note title="Who’s notified">
            <p>
              Everyone chooses their own notifications <Link href={`/c/${slug}/heard/told`}>under Heard</Link>.
            </p>
          </Note>
        </>
      }
    >
      <h1 className="title">Answering people</h1>
      <p className="lead">When you’re open, how quickly you answer, and who handles what.</p>
      <ul className="divide-rule border-rule mt-6 divide-y border-y">
        <li className="py-3">
          <AnswerTimesSentence slug={slug} hours={client.answerWithinHours} urgent={client.urgentWithinHours} />
        </li>
        {branches.map(({ id, name }) => (
          <li key={id} className="py-3">
            <b>{name}</b> answers{" "}
            <OfficeHoursSentence slug={slug} branchId={id} week={officeCalendarOf(setting, id, now).hours} />.
          </li>
        ))}
        <li className="py-3">
          Outside these hours, people who write get <AwaySentence slug={slug} {...awayOf(setting, now)} />.
        </li>
      </ul>
      <h2 className="font-title mt-10 text-[21px] font-semibold">Who handles concerns</h2>
      <ul className="divide-rule border-rule mt-3 divide-y border-y">
        {ruled.map(({ id, name }) => (
          <li key={id} className="py-3">
            Concerns about visits with <b>{name}</b> go to{" "}
            <OwnerSentence
              slug={slug}
              of={{ branchId: null, teamMemberId: id }}
              owner={ownerOf(null, id)}
              staff={staff}
            />
            .
          </li>
        ))}
        {branches.map(({ id, name }) => (
          <li key={id} className="py-3">
            Concerns at <b>{name}</b> go to{" "}
            <OwnerSentence
              slug={slug}
              of={{ branchId: id, teamMemberId: null }}
              owner={ownerOf(id, null)}
              staff={staff}
            />
            .
          </li>
        ))}
        {branches.length > 1 ? (
          <li className="py-3">
            All other concerns go to{" "}
            <OwnerSentence
              slug={slug}
              of={{ branchId: null, teamMemberId: null }}
              owner={ownerOf(null, null)}
              staff={staff}
            />
            .
          </li>
        ) : null}
        {team.length > ruled.length && staff.length > 0 ? (
          <li className="py-3">
            <NewMemberOwner
              slug={slug}
              team={team
                .filter(({ id, retired }) => !retired && !ruled.some((one) => one.id === id))
                .map(({ id, name }) => ({ id, name }))}
              staff={staff}
            />
          </li>
        ) : null}
      </ul>
      <h2 className="font-title mt-10 text-[21px] font-semibold">Who’s away</h2>
      <ul className="divide-rule border-rule mt-3 divide-y border-y">
        {staff.map((person) => {
          const absence = away(person.id);
          const standIn = staff.find(({ id }) => id === absence?.standInId);
          return (
            <li key={person.id} className="py-3">
              <b>{person.name}</b> is{" "}
              <AbsenceSentence
                slug={slug}
                person={person}
                staff={staff}
                until={absence?.until ?? null}
                standInId={absence?.standInId ?? null}
                today={today}
                words={
                  absence
                    ? `away until ${sayDay("UTC", Date.parse(absence.until), now)}${standIn ? `; ${standIn.name} is covering` : "; nobody is covering"}`
                    : "here"
                }
              />
              .
            </li>
          );
        })}
      </ul>
    </Page>
  );
}

/** The word outside the hours in each language, as somebody would get it who wrote now. */
function awayOf(setting: Setting, now: number) {
  const { client } = setting;
  const calendar = officeCalendarOf(setting, null, now);
  const at = nextOpen(now, calendar) ?? now;
  return {
    isOn: client.awayWord?.isOn ?? true,
    words: LANGUAGES.map((language) => ({
      language,
      name: LANGUAGE_NAMES[language],
      own: client.awayWord?.words[language] ?? "",
      starter: awayWords(null, language, client.name, sayOpening(language, calendar.zone, at)),
    })),
  };
}
