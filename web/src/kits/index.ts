export { KitEditor } from "./kiteditor.tsx";
export { KitTable } from "./kittable.tsx";
