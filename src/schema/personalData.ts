import {
  accountEntriesPersonal,
  accountsPersonal,
  agenciesPersonal,
  clientGroupsPersonal,
  demoClockPersonal,
  invitationsPersonal,
  rateLimitsPersonal,
  rolesPersonal,
  seatsPersonal,
  sessionsPersonal,
  usersPersonal,
  verificationsPersonal,
} from "./accounts";
import { answersPersonal, sitesFollowedPersonal } from "./answers";
import { apiKeysPersonal, apiRepeatsPersonal } from "./api";
import { askEventsPersonal } from "./askEvents";
import { asksPersonal } from "./asks";
import { auditEntriesPersonal } from "./audit";
import {
  branchesPersonal,
  clientsPersonal,
  listingsPersonal,
  mailDomainsPersonal,
  sendersPersonal,
  servicesPersonal,
  tagsPersonal,
  teamMembersPersonal,
} from "./clients";
import { concernsPersonal } from "./concerns";
import { feedsPersonal, inboundEventsPersonal } from "./feeds";
import { intakeRowsPersonal, intakesPersonal, readingsPersonal, seenNamesPersonal } from "./intake";
import { messagesPersonal } from "./messages";
import { noticesPersonal } from "./notices";
import { clientDraftsPersonal } from "./onboarding";
import { outlooksPersonal } from "./outlook";
import {
  dismissedMatchesPersonal,
  erasuresPersonal,
  householdsPersonal,
  mergesPersonal,
  peopleMatchesPersonal,
  peoplePersonal,
  viewsPersonal,
} from "./people";
import type { Personal } from "./personal";
import { plansPersonal, planVersionsPersonal, siteTurnsPersonal, triggersPersonal } from "./plans";
import { reviewsPersonal } from "./reviews";
import { visitsPersonal } from "./visits";

/** The registry of personal data: every table, with what merging, exporting and erasing a person do to its rows. */
export const PERSONAL_DATA: readonly Personal[] = [
  usersPersonal,
  sessionsPersonal,
  accountsPersonal,
  verificationsPersonal,
  agenciesPersonal,
  rolesPersonal,
  clientGroupsPersonal,
  seatsPersonal,
  invitationsPersonal,
  accountEntriesPersonal,
  clientDraftsPersonal,
  outlooksPersonal,
  rateLimitsPersonal,
  demoClockPersonal,
  answersPersonal,
  sitesFollowedPersonal,
  apiKeysPersonal,
  apiRepeatsPersonal,
  asksPersonal,
  askEventsPersonal,
  auditEntriesPersonal,
  clientsPersonal,
  branchesPersonal,
  servicesPersonal,
  teamMembersPersonal,
  listingsPersonal,
  tagsPersonal,
  sendersPersonal,
  mailDomainsPersonal,
  concernsPersonal,
  feedsPersonal,
  inboundEventsPersonal,
  intakesPersonal,
  intakeRowsPersonal,
  readingsPersonal,
  seenNamesPersonal,
  messagesPersonal,
  noticesPersonal,
  peoplePersonal,
  householdsPersonal,
  dismissedMatchesPersonal,
  peopleMatchesPersonal,
  mergesPersonal,
  erasuresPersonal,
  viewsPersonal,
  plansPersonal,
  planVersionsPersonal,
  triggersPersonal,
  siteTurnsPersonal,
  reviewsPersonal,
  visitsPersonal,
];
