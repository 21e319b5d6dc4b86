/** shownAs is the quantity a product is shown in by area. */
export const shownAs = (how: string) => ({ t: "yieldT", pieces: "perArea" })[how] ?? "yieldKg";

/** altogether is the quantity a product is shown in as a sum. */
export const altogether = (how: string) => ({ t: "massT", pieces: "count" })[how] ?? "massKg";
