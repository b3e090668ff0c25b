import { readFileSync } from "node:fs";

/** What the server says stands in C#; the tests of the core gather it into `server.json`, and this hands it on to be translated. */
export const serverWords = {
    match: (file) => file.endsWith("words/server.json"),
    extract: async (file, _source, onMessage) => {
        for (const { pattern, file: from } of JSON.parse(readFileSync(file, "utf8")))
            onMessage({ id: pattern, message: undefined, origin: [`../../${from}`, 1], placeholders: {} });
    },
};
