export * from "./catalogpage.tsx";
export { Files } from "./files.tsx";
export * from "./itemfield.tsx";
export { Picture } from "./picture.tsx";
export * from "./pricespage.tsx";
export * from "./quantityfield.tsx";
export * from "./queries.ts";
export * from "./ratefield.tsx";
export * from "./replacepage.tsx";
