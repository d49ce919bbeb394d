export { OrderShipments } from "./ordershipments.tsx";
export { ReadyPage } from "./readypage.tsx";
export { ShipDialog } from "./shipform.tsx";
export { ShipmentsPage } from "./shipmentspage.tsx";
