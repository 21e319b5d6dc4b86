export * from "./call";
export * from "./queries";
export * from "./write";
