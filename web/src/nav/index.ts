export { BuildsNav } from "./buildsnav.tsx";
export { BuyingNav } from "./buyingnav.tsx";
export { CatalogNav } from "./catalognav.tsx";
export { OrdersNav } from "./ordersnav.tsx";
export { StockNav } from "./stocknav.tsx";
