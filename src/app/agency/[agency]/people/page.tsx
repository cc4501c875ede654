import { STARTER_ROLES } from "@/core/access/permissions";
import { capital, sayAgo, sayCount, sayDay } from "@/core/time/say";
import { linksAsTyped, PLAIN_LOOK, TYPEFACE_NAMES } from "@/core/words/look";
import {
  agencyClients,
  type Invitation,
  listInvitations,
  listPlaces,
  listRoles,
  listSeats,
  loadAgency,
  type Place,
  placeKind,
  recentAccountEntries,
  type SeatRow,
} from "@/features/accounts";
import { mailAgencySenderLink } from "@/features/accounts/actions";
import { AgencyForm } from "@/features/accounts/parts/AgencyForm.client";
import { ClientLookForm } from "@/features/accounts/parts/ClientLookForm.client";
import {
  InvitationButtons,
  InviteForm,
  LookAs,
  type RoleChoice,
  RoleForm,
  RoleSentence,
  TakeOff,
} from "@/features/accounts/parts/PeopleForms.client";
import { installationAddress } from "@/features/clients";
import { ShownSentence } from "@/features/outlook/parts/ShownSentence.client";
import {
  accountActionWords,
  accountNameWords,
  accountSubjectWords,
  permissionWords,
  roleWords,
  starterRoleWords,
} from "@/locales/accounts";
import { type AgencyAccess, requireAgency } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withAgency } from "@/platform/database";
import { AgencyName } from "@/ui/AgencyName";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Empty, Note, Page } from "@/ui/Page";
import { PictureForm } from "@/ui/PictureForm.client";

export const metadata = { title: "Team and access" };

type Props = { params: Promise<{ agency: string }> };

export default async function PeopleAndRights({ params }: Props) {
  const access = await requireAgency((await params).agency, "manage people");
  const now = await clockNow();
  const seen = await withAgency(access, async (tx) => ({
    seats: await listSeats(tx, access),
    invitations: await listInvitations(tx, access),
    roles: await listRoles(tx, access),
    clients: await agencyClients(tx, access),
    places: await listPlaces(tx, access),
    agency: await loadAgency(tx, access),
    entries: await recentAccountEntries(tx, access, 12),
  }));
  const { slug } = access.seat;
  const choices: RoleChoice[] = [
    ...STARTER_ROLES.map((role) => ({ value: role, name: starterRoleWords(role).name })),
    ...seen.roles.map(({ id, name }) => ({ value: id, name })),
  ];
  const people = new Set(seen.seats.map(({ userId }) => userId)).size;
  const hasPeople = ({ id, shownPlaces }: ListedClient) =>
    shownPlaces !== null || [...seen.seats, ...seen.invitations].some(({ onlyClient }) => onlyClient === id);
  const withPeople = seen.clients.filter(hasPeople);
  const others = seen.clients.filter((client) => !hasPeople(client));
  const clientLook = { ...PLAIN_LOOK, ...seen.agency.clientLook };
  return (
    <Page
      margin={
        <>
          <Note title="Invite someone">
            <InviteForm slug={slug} roles={choices} places={seen.places} />
          </Note>
          {seen.entries.length > 0 ? (
            <Note title="Recent changes">
              <ul className="space-y-1">
                {seen.entries.map((entry) => (
                  <li key={entry.id}>
                    {entry.who} {accountActionWords(entry.action)}{" "}
                    {[accountSubjectWords(entry.subject), entry.name === entry.who ? "" : accountNameWords(entry)]
                      .filter(Boolean)
                      .join(" ")}{" "}
                    {sayAgo(entry.at, now)}
                  </li>
                ))}
              </ul>
            </Note>
          ) : null}
        </>
      }
    >
      <h1 className="title">
        {capital(sayCount(people, "person has", "people have"))} access
        {seen.invitations.length > 0 ? `, and ${sayCount(seen.invitations.length, "is invited", "are invited")}` : ""}.
      </h1>
      <p className="lead">Anyone you remove loses access straight away, on every device.</p>
      <Seats seats={seen.seats} choices={choices} access={access} />
      {seen.invitations.length > 0 ? <Invitations list={seen.invitations} slug={slug} now={now} /> : null}
      <section className="mt-9" aria-label="What clients’ staff see">
        <h2 className="text-[19px] font-semibold">What clients’ own staff see</h2>
        <ShownPlaces clients={withPeople} slug={slug} />
        {others.length > 0 ? (
          <details className="mt-3">
            <summary className="text-second">
              {capital(sayCount(others.length, "client"))} {withPeople.length > 0 ? "more " : ""}with no staff of their
              own
            </summary>
            <ShownPlaces clients={others} slug={slug} />
          </details>
        ) : null}
      </section>
      <section className="mt-9" aria-label="The agency">
        <div className="flex flex-wrap items-center justify-between gap-3">
          <h2 className="text-[19px] font-semibold">The agency</h2>
          <span className="flex flex-wrap items-center gap-1">
            <PictureForm to={`/agency/${slug}/logo`} has={seen.agency.logoId !== null} name="logo" />
            <AgencyForm slug={slug} agency={seen.agency} />
          </span>
        </div>
        {seen.agency.senderEmail && seen.agency.senderConfirmedAt === null ? (
          <p className="bg-ochre-tint mt-2 rounded-[8px] px-3 py-2">
            Nobody has confirmed <b>{seen.agency.senderEmail}</b> yet. Until someone clicks the link in our email, the
            agency’s emails come from <b>{installationAddress()}</b>.{" "}
            <ConfirmButton className="button-quiet" action={mailAgencySenderLink.bind(null, slug)}>
              Send the link again
            </ConfirmButton>
          </p>
        ) : null}
        <p className="border-rule mt-2 border-y py-2.5">
          Clients’ own staff see, at the top of their pages,{" "}
          <AgencyName name={seen.agency.name} colour={seen.agency.colour} logoId={seen.agency.logoId} />, and{" "}
          {seen.agency.helpEmail ? `can ask for help at ${seen.agency.helpEmail}` : "have no address to ask for help"}.
          Everyone signs in with{" "}
          {seen.agency.needsTwoSteps ? "two steps" : "a password, plus a second step if they choose"}. New clients start
          with the typeface{" "}
          <ClientLookForm
            slug={slug}
            words={TYPEFACE_NAMES[clientLook.typeface].split(",")[0]}
            values={{ ...clientLook, links: linksAsTyped(clientLook.links) }}
          />
          {clientLook.signature ? ", with a signature" : ", without a signature"}.
        </p>
      </section>
      <section className="mt-9" aria-label="Roles">
        <div className="flex flex-wrap items-center justify-between gap-3">
          <h2 className="text-[19px] font-semibold">Roles</h2>
          <RoleForm slug={slug} own={null} mine={access.seat.permissions} />
        </div>
        <ul className="divide-rule border-rule mt-2 divide-y border-y">
          {STARTER_ROLES.map((role) => (
            <li key={role} className="py-2.5">
              <b>{starterRoleWords(role).name}</b>
              <p className="text-second">{starterRoleWords(role).says}</p>
            </li>
          ))}
          {seen.roles.map((role) => (
            <li key={role.id} className="flex flex-wrap items-start justify-between gap-3 py-2.5">
              <div className="min-w-0 flex-1 basis-[300px]">
                <b>{role.name}</b>{" "}
                <span className="text-second text-[14px]">
                  {role.held === 0
                    ? "nobody has this role"
                    : sayCount(role.held, "person has this role", "people have this role")}
                </span>
                <p className="text-second">Can {role.permissions.map(permissionWords).join(", ")}.</p>
              </div>
              <RoleForm slug={slug} own={role} mine={access.seat.permissions} />
            </li>
          ))}
        </ul>
      </section>
    </Page>
  );
}

/** For how much of the agency: "at Bramble Lane". */
function placeWords(it: Place & { place: string | null }): string {
  if (it.place === null) return "for every client";
  return placeKind(it) === "group" ? `for the clients of ${it.place}` : `at ${it.place}`;
}

type ListedClient = Awaited<ReturnType<typeof agencyClients>>[number];

function ShownPlaces({ clients, slug }: { clients: ListedClient[]; slug: string }) {
  if (clients.length === 0) return null;
  return (
    <ul className="divide-rule border-rule mt-2 divide-y border-y">
      {clients.map((client) => (
        <li key={client.id} className="py-2.5">
          <b>{client.name}</b> shows its staff <ShownSentence slug={slug} client={client} />.
        </li>
      ))}
    </ul>
  );
}

function Seats({ seats, choices, access }: { seats: SeatRow[]; choices: RoleChoice[]; access: AgencyAccess }) {
  const { slug, permissions } = access.seat;
  return (
    <ul className="divide-rule border-rule mt-6 divide-y border-y">
      {seats.map((seat) => (
        <li key={seat.id} className="grid items-center gap-x-4 gap-y-0.5 py-2.5 sm:grid-cols-[1fr_1fr_220px]">
          <span className="min-w-0 [overflow-wrap:anywhere]">
            <b>{seat.name}</b>
            <span className="text-second block text-[14px]">{seat.email}</span>
          </span>
          <span>
            <RoleSentence
              slug={slug}
              id={seat.id}
              name={seat.name}
              words={roleWords(seat)}
              value={seat.roleId ?? seat.role}
              roles={choices}
              mayChange={seat.permissions.every((permission) => permissions.includes(permission))}
            />{" "}
            {placeWords(seat)}
          </span>
          <span className="-ml-2 flex flex-wrap gap-1 sm:ml-0 sm:justify-end">
            {seat.userId !== access.user.id && seat.permissions.every((one) => permissions.includes(one)) ? (
              <LookAs slug={slug} userId={seat.userId} name={seat.name} />
            ) : null}
            <TakeOff slug={slug} id={seat.id} name={seat.name} isMe={seat.userId === access.user.id} />
          </span>
        </li>
      ))}
    </ul>
  );
}

function Invitations({ list, slug, now }: { list: Invitation[]; slug: string; now: number }) {
  return (
    <section className="mt-8" aria-label="Invited">
      <h2 className="text-[19px] font-semibold">Invited</h2>
      {list.length === 0 ? (
        <Empty>Nobody’s been invited.</Empty>
      ) : (
        <ul className="divide-rule border-rule mt-2 divide-y border-y">
          {list.map((one) => (
            <li key={one.id} className="flex flex-wrap items-center justify-between gap-3 py-2.5">
              <span className="min-w-0 [overflow-wrap:anywhere]">
                <b>{one.name}</b> <span className="text-second">{one.email}</span>
                <span className="text-second block text-[14px]">
                  {roleWords(one)} {placeWords(one)} · sent {sayAgo(one.sentAt, now)} by {one.by} ·{" "}
                  {one.expiresAt < now ? (
                    <span className="text-ochre-deep">its link has expired</span>
                  ) : (
                    `valid until ${sayDay("UTC", one.expiresAt, now)}`
                  )}
                </span>
              </span>
              <InvitationButtons slug={slug} id={one.id} name={one.name} />
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
