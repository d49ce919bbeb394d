import "@fontsource-variable/bricolage-grotesque/wght.css";
import "@fontsource-variable/source-sans-3/wght.css";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./app/index.ts";

const root = document.getElementById("root");
if (!root) throw new Error("The page has no place for the application");
// A device has it on a secure origin only; on another the page works, but does not open without the server.
if (import.meta.env.PROD && "serviceWorker" in navigator)
  navigator.serviceWorker
    .register("/serviceworker.js")
    .catch((error: Error) => console.warn(`The page won't open without the server: ${error.message}`));
createRoot(root).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
