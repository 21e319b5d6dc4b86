/** How nutrients are written; the plan names them n, p2o5 and so on. */
export const nutrientNames: Record<string, string> = { n: "N", p2o5: "P₂O₅", k2o: "K₂O", p: "P", k: "K", mgo: "MgO" };
