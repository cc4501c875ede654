export { listOwnThemes, type OwnTheme, readingProgress } from "./own";
export { CLAUSES_PAGE, clausesOf, countTexts, countThemes, partsOf, type ThemeCount } from "./queries";
export { clientsToRead, clientsToReadAnew, readAllAnew, readThemesOf } from "./reading";
