import {
  accountEntriesPersonal,
  accountsPersonal,
  agenciesPersonal,
  clientGroupsPersonal,
  demoClockPersonal,
  handoversPersonal,
  invitationsPersonal,
  rateLimitsPersonal,
  rolesPersonal,
  seatsPersonal,
  sessionsPersonal,
  summaryReadersPersonal,
  twoFactorsPersonal,
  usersPersonal,
  verificationsPersonal,
} from "./accounts";
import { answerPhotosPersonal } from "./answerPhotos";
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
import { absencesPersonal, concernNotesPersonal, concernOwnersPersonal, concernsPersonal } from "./concerns";
import { conversationsPersonal, sharedTextsPersonal } from "./conversations";
import { deskTriesPersonal, sharedPhonesPersonal } from "./desk";
import { feedsPersonal, inboundEventsPersonal } from "./feeds";
import { imagesPersonal } from "./images";
import { intakeRowsPersonal, intakesPersonal, readingsPersonal, seenNamesPersonal } from "./intake";
import { messagePicturesPersonal } from "./messagePictures";
import { messagesPersonal } from "./messages";
import { noticesPersonal } from "./notices";
import { clientDraftsPersonal } from "./onboarding";
import { needsAsidePersonal, outlooksPersonal } from "./outlook";
import { ownReviewsPersonal } from "./ownReviews";
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
import {
  agencyReplyUsesPersonal,
  agencySavedRepliesPersonal,
  replyRulesPersonal,
  savedRepliesPersonal,
} from "./replyRules";
import { reviewImportsPersonal } from "./reviewImports";
import { reviewsPersonal, reviewViewsPersonal } from "./reviews";
import { siteAccountsPersonal, siteConnectionsPersonal, siteReadingsPersonal } from "./sites";
import { standingLinksPersonal } from "./standingLinks";
import { tellingsPersonal, toldChoicesPersonal } from "./tellings";
import { namedThemesPersonal, ownThemesPersonal } from "./themes";
import { visitsPersonal } from "./visits";
import { agencyWordsPersonal, previewLinksPersonal } from "./words";

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
  handoversPersonal,
  twoFactorsPersonal,
  summaryReadersPersonal,
  sharedPhonesPersonal,
  deskTriesPersonal,
  imagesPersonal,
  standingLinksPersonal,
  clientDraftsPersonal,
  needsAsidePersonal,
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
  concernNotesPersonal,
  feedsPersonal,
  inboundEventsPersonal,
  intakesPersonal,
  intakeRowsPersonal,
  readingsPersonal,
  seenNamesPersonal,
  messagesPersonal,
  messagePicturesPersonal,
  conversationsPersonal,
  sharedTextsPersonal,
  concernOwnersPersonal,
  absencesPersonal,
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
  reviewViewsPersonal,
  reviewImportsPersonal,
  replyRulesPersonal,
  savedRepliesPersonal,
  agencySavedRepliesPersonal,
  agencyReplyUsesPersonal,
  siteAccountsPersonal,
  siteConnectionsPersonal,
  siteReadingsPersonal,
  tellingsPersonal,
  toldChoicesPersonal,
  namedThemesPersonal,
  ownThemesPersonal,
  visitsPersonal,
  answerPhotosPersonal,
  ownReviewsPersonal,
  agencyWordsPersonal,
  previewLinksPersonal,
];
