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
export { sendAccountMail } from "./mail";
export { choosePassword, LINK_MINUTES, mailPasswordLink } from "./passwords";
export { listRoles, type Role, type RoleInput, removeRole, roleInput, roleOf, saveRole } from "./roles";
export { addSeat, agencyClients, changeSeat, clientNameOf, listSeats, removeSeat, type SeatRow } from "./seats";
export { slugFor } from "./slug";
export { type AccountEntry, recentAccountEntries, recordAccountEntry } from "./trail";
