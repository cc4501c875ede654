export { dismissMatch, findDuplicates, findDuplicatesAndHouseholds, findHouseholds, findMatches } from "./duplicates";
export { erasePeople, exportPerson } from "./erase";
export { exportPeople, FORMATS } from "./exportPeople";
export { housemates, leaveHousehold, makeHousehold } from "./households";
export { correctAddress, countInvalidAddresses, findInvalidAddresses } from "./invalidAddresses";
export { excludeMany, restMany, tagMany } from "./many";
export { mergePeople, mergesOf, recentMerges, undoMerge } from "./merge";
export { loadPersonView, type PersonView } from "./personView";

export { selectedIds, selection } from "./selection";
