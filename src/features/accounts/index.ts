export { type Agency, agencyInput, loadAgency, saveAgency, saveClientLook, setAgencyLogo } from "./agency";
export { begin, beginInput, beginToken, isUnbegun } from "./begin";
export { groupNamed } from "./groups";
export {
  AccountExists,
  acceptInvitation,
  findInvitation,
  hasAccount,
  INVITATION_DAYS,
  type Invitation,
  type InvitationLink,
  invite,
  listInvitations,
  passwordInput,
  renewInvitation,
  withdrawInvitation,
} from "./invitations";
export { choosePassword, isOwnPassword, LINK_MINUTES, mailPasswordLink } from "./passwords";
export { listPlaces, type Place, type PlaceKind, placeKind, placeOf, WHOLE_AGENCY } from "./places";
export {
  addressInput,
  askForAddress,
  confirmAddress,
  deviceOf,
  endSession,
  listSessions,
  loadProfile,
  type OpenSession,
  type Profile,
  profileInput,
  saveProfile,
} from "./profile";
export { listRoles, type Role, type RoleInput, removeRole, roleInput, roleOf, saveRole } from "./roles";
export { addSeat, agencyClients, changeSeat, listSeats, listTeam, removeSeat, type SeatRow } from "./seats";
export { slugFor } from "./slug";
export { type AccountEntry, recentAccountEntries, recordAccountEntry } from "./trail";
export {
  confirmTwoSteps,
  endTwoSteps,
  newRecoveryCodes,
  type Preparation,
  prepareTwoSteps,
  takeSecondStep,
} from "./twoSteps";
