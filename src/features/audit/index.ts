export { note } from "./service";
