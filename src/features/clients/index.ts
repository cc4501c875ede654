export { regionOf, regionsOf } from "./holidays";
export * from "./meter";
export * from "./named";
export * from "./pages";
export * from "./queries";
export {
  branches,
  clients,
  listings,
  mailDomains,
  senders,
  services,
  TAG_EFFECTS,
  type TagEffect,
  tags,
  teamMembers,
} from "./tables";
