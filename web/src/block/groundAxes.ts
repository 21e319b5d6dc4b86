import type { Plan } from "../api/client";

export type Y = Plan["years"][number];

// Of the ground line, in pixels: how high it is, where the ground lies, and how far crown and roots reach.
export const height = 300;
export const groundY = 168;
export const topY = 26;
export const deep = 92;
