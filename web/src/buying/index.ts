export * from "./buyingpage.tsx";
export * from "./outboxpage.tsx";
export * from "./reorderpage.tsx";
