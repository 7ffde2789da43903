// What `main` prints, from the program as WebAssembly: node run.mjs FILE.wasm
import { readFile } from "node:fs/promises";

const { instance } = await WebAssembly.instantiate(await readFile(process.argv[2]));
const { begin, hash } = instance.exports;
const runs = begin();
for (let run = 0; run < runs; run += 1) {
  console.log(`${run} ${BigInt.asUintN(64, hash(run)).toString(16).padStart(16, "0")}`);
}
