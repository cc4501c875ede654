export { erasePeople, exportPerson } from "./erase";
export { exportPeople, FORMATS } from "./exportPeople";
export { correctAddress, countInvalidAddresses, findInvalidAddresses } from "./invalidAddresses";
export { excludeMany, restMany, tagMany } from "./many";
export {
  dismissMatch,
  findDuplicates,
  findDuplicatesAndHouseholds,
  findHouseholds,
  findMatches,
  housemates,
  leaveHousehold,
  makeHousehold,
  mergePeople,
  mergesOf,
  recentMerges,
  undoMerge,
} from "./merge";
export { loadPersonView, type PersonView } from "./personView";

export { selectedIds, selection } from "./selection";
