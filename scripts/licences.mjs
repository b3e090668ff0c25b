// Writes the licences of the packages the server ships with, from what was restored: node scripts/licences.mjs
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { homedir } from "node:os";
import { join } from "node:path";

const root = join(import.meta.dirname, "..");
const lock = JSON.parse(readFileSync(join(root, "src/Kingcup.Server/packages.lock.json"), "utf8"));
const packages = process.env.NUGET_PACKAGES ?? join(homedir(), ".nuget/packages");
const found = new Map();
for (const framework of Object.values(lock.dependencies)) {
  for (const [name, { resolved, type }] of Object.entries(framework)) {
    if (type === "Project") continue;
    const folder = join(packages, name.toLowerCase(), resolved.toLowerCase());
    const spec = join(folder, `${name.toLowerCase()}.nuspec`);
    const text = existsSync(spec) ? readFileSync(spec, "utf8") : "";
    const licence = /<license type="expression">([^<]+)</.exec(text)?.[1] ?? /<licenseUrl>([^<]+)</.exec(text)?.[1] ?? "";
    const by = /<authors>([^<]+)</.exec(text)?.[1] ?? "";
    found.set(name, { name, version: resolved, licence, by });
  }
}
const all = [...found.values()].sort((a, b) => a.name.localeCompare(b.name, "en"));
writeFileSync(join(root, "src/web/src/features/business/about/serverLicences.json"), `${JSON.stringify(all, null, 2)}\n`);
