export { CatalogPage } from "./itemspage.tsx";
