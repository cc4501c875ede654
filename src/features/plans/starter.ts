export { STARTERS, starterRules } from "@/core/plans/starters";
