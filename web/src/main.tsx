import "@fontsource-variable/bricolage-grotesque/wght.css";
import "@fontsource-variable/source-sans-3/wght.css";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./app/index.ts";

const root = document.getElementById("root");
if (!root) throw new Error("The page has no place for the application");
createRoot(root).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
