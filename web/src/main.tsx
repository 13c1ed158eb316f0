import "@fontsource-variable/archivo/index.css";
import "@fontsource-variable/atkinson-hyperlegible-next/index.css";
import "./styles/tokens.css";
import "./styles/base.css";
import "./styles/pictures.css";
import "./styles/verdicts.css";
import "./styles/fields.css";
import "./styles/print.css";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./app/App";
import { language } from "./words/language";

const root = document.getElementById("root");
if (root === null) throw new Error("the page has no root");
document.documentElement.lang = language;
createRoot(root).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
