export { erasePeople, exportPerson } from "./erase";
export { FORMATS, takeOutPeople } from "./exportPeople";
export { excludeMany, restMany, tagMany } from "./many";
export { countMendable, findMendable, mendAddress } from "./mend";
export {
  findHouseholds,
  findMatches,
  findTwins,
  findTwinsAndHouseholds,
  housemates,
  keepApart,
  leaveHousehold,
  makeHousehold,
  mergePeople,
  mergesOf,
  recentMerges,
  undoMerge,
} from "./merge";
export { selectedIds, selection } from "./selection";
