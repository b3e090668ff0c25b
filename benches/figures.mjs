// The figures of a run: name, value, unit, what to aim for, and what it is relative to. Every part of ./bench adds to the same file.
import { existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";

export function figuresIn(folder) {
    mkdirSync(`${folder}/bench`, { recursive: true });
    const file = `${folder}/bench/figures.json`;
    const figures = existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : [];
    return function figure(name, value, unit, aim = null, relativeTo = null) {
        const at = figures.findIndex((one) => one.name === name);
        figures.splice(at < 0 ? figures.length : at, at < 0 ? 0 : 1, {
            name,
            value: Math.round(value * 1000) / 1000,
            unit,
            aim,
            relativeTo,
        });
        writeFileSync(file, JSON.stringify(figures, null, 2) + "\n");
        console.log(`${name}: ${value.toFixed(2)} ${unit}${relativeTo ? ` of ${relativeTo}` : ""}${aim ? ` (aim: ${aim})` : ""}`);
    };
}

export const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
