/** How heavy an exercise is on the day, as it is said. */
export const COST: Record<string, string> = { high: "high", middle: "medium", low: "low" };
