// Which imports of some source texts break the one direction: read as JSON from standard input.
import { ESLint } from "eslint";
import { contract } from "../contract.js";

const texts = JSON.parse(await new Response(process.stdin).text());
const eslint = new ESLint({ overrideConfigFile: true, overrideConfig: contract, warnIgnored: false });
const told = [];
for (const { file, text } of texts) {
  const [result] = await eslint.lintText(`${text}\n`, { filePath: file });
  told.push(result.messages.map((one) => one.message));
}
process.stdout.write(JSON.stringify(told));
