export { OrderShipments } from "./ordershipments.tsx";
export { ShipDialog } from "./shipform.tsx";
export { ShipmentsPage } from "./shipmentspage.tsx";
