export { type Care, WHENS, type When, normalOn, routineOf, worksInShop } from "./routine";
