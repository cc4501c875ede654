export { type Article, articleOf, articles, htmlOf, type Offered } from "./articles";
