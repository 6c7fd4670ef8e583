export { type Drift, type DriftVisit, type Point, driftFrom, pOutside, reachedOn } from "./drift";
export { type Limit, type ServiceForecast, forecastService } from "./service";
