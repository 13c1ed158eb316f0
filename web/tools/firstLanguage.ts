/** The words as tests have them: there is no server there to ask for the file. */
export { default as words } from "../src/words/en.json";
export const language = "en";
export const locale = "en-GB";
