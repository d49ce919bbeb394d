export { Files, PictureButton } from "./files.tsx";
export { fileAddress, Picture, WithPicture } from "./picture.tsx";
