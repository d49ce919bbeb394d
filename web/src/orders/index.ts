export * from "./orderspage.tsx";
