export * from "./orderspage.tsx";
export * from "./tobuildpage.tsx";
