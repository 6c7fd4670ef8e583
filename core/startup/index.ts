export { type Burst, type BurstRule, type BurstState, FILL, NO_WATER, PRIME, burstState } from "./bursts";
