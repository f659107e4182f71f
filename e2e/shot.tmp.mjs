import { chromium } from "@playwright/test";
const [,, base, out, w, h, ...steps] = process.argv;
const b = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--headless","--no-sandbox","--disable-gpu"] });
const p = await b.newPage({ viewport: { width: +w, height: +h }, hasTouch: +w < 500 });
p.on("console", m => { if (["error","warning"].includes(m.type())) console.log("console:", m.text()); });
p.on("pageerror", e => console.log("pageerror:", e.message));
await p.goto(base); await p.waitForLoadState("networkidle");
for (const s of steps) { const [k, ...r] = s.split("="); const v = r.join("=");
 if (k==="click") await p.click(v); if (k==="press") await p.keyboard.press(v); if (k==="type") await p.keyboard.type(v); if (k==="wait") await p.waitForTimeout(+v); if (k==="scroll") await p.evaluate((y)=>document.querySelector("#stage").scrollTo(0,+y), v); await p.waitForLoadState("networkidle"); }
await p.waitForTimeout(250);
await p.screenshot({ path: out }); await b.close();
