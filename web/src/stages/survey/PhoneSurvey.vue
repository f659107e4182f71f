<script setup lang="ts">
import { computed, ref } from "vue";
import MeterDialog from "@/shell/MeterDialog.vue";
import { useAsk } from "@/shell/useAsk";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { readOut, say, show } from "@/units/text";
import SurveyPlan from "./SurveyPlan.vue";
import SurveySide from "./SurveySide.vue";
import TappedInch from "./TappedInch.vue";

/** In the vehicle: one reading, where to hold the tape, a keypad, Next at the thumb. */
const store = useProject();
const view = useView();
const {
  ask,
  parts,
  open,
  entry,
  soft,
  note,
  error,
  doubted,
  cameBack,
  busy,
  result,
  instead,
  take,
  skip,
  press: shoot,
} = useAsk();
const noting = ref(false);
const metering = ref(false);
const inches = computed(() => store.project?.units?.tape === "in");

const MM_KEYS = ["7", "8", "9", "4", "5", "6", "1", "2", "3", ",", "0", "⌫"] as const;
const INCH_KEYS = ["7", "8", "9", "4", "5", "6", "1", "2", "3", "⌫", "0", "can’t reach"] as const;

/** Whole inches by key, the mark by tapping a drawn inch: together they are what is typed. */
const whole = computed(() => /^\d*/.exec(entry.value)?.[0] ?? "");
const fraction = computed(() => entry.value.slice(whole.value.length).trim());
function compose(inch: string, part: string) {
  entry.value = [inch, part].filter(Boolean).join(" ");
}

const asked = computed(() => open.value.filter((a) => a.stage === "survey" && a.needed).length);
const taken = computed(() => store.plan?.survey.readings ?? 0);
const share = computed(() => (taken.value / Math.max(taken.value + asked.value, 1)) * 100);
const mine = computed(() => (ask.value?.stage === "survey" ? ask.value : null));
/** What the reading just taken has upset: told while one still stands there. */
const last = computed(() => {
  const all = (store.plan?.survey.marks ?? []).flatMap((m) =>
    m.readings.map((r) => ({ key: m.key, when: r.when })),
  );
  return all.sort((a, b) => b.when.localeCompare(a.when))[0]?.key ?? "";
});
const worst = computed(() => {
  const own = store.plan?.findings.filter((f) => f.stage === "survey") ?? [];
  return (
    own.find((f) => f.level === "stop") ??
    own.find((f) => f.level === "look" && f.show?.mark === last.value && f.id.startsWith("again."))
  );
});
const lines = computed(() => {
  const r = result.value;
  if (!r || "error" in r) return { main: "", other: "" };
  const mm = `${show(r.mm)} mm`;
  return store.system === "in"
    ? { main: `${r.nearest}″`, other: mm }
    : { main: mm, other: `${r.nearest}″` };
});
const mayBeSoft = computed(
  () => mine.value?.target.to === "reading" && mine.value.target.may_be_soft,
);

function press(key: string) {
  if (key === "can’t reach") void skip("cannot be reached");
  else if (!inches.value) {
    if (key === "⌫") entry.value = entry.value.slice(0, -1);
    else if (key === "cm" || key === "mm") entry.value = `${entry.value.trim()} ${key}`;
    else entry.value += key;
  } else if (key === "⌫") {
    if (fraction.value) compose(whole.value, "");
    else compose(whole.value.slice(0, -1), "");
  } else compose(whole.value + key, fraction.value);
}

/** The reading taken last: it can be corrected. */
const newest = computed(() => {
  const all = (store.plan?.survey.marks ?? []).flatMap((m) =>
    m.readings.filter((r) => !r.aside).map((r) => ({ m, r })),
  );
  return all.sort((a, b) => b.r.when.localeCompare(a.r.when))[0];
});
function back() {
  const last = newest.value;
  if (last) view.mend(last.m, last.r.id, last.r.typed);
}
</script>

<template>
  <div class="phone">
    <div class="progress" aria-hidden="true"><i :style="{ width: `${share}%` }"></i></div>
    <template v-if="mine">
      <div class="question">
        <h2>
          <template v-for="(p, i) in parts" :key="i"
            ><template v-if="i">, </template><mark v-if="p.changed">{{ p.text }}</mark
            ><template v-else>{{ p.text }}</template></template
          >
        </h2>
        <p class="soft">{{ mine.how }}</p>
        <p v-if="worst" class="error" role="alert">{{ worst.sentence }}</p>
        <p v-else class="soft">{{ store.plan?.progress?.sentence }}</p>
      </div>
      <div class="where">
        <SurveySide v-if="mine.place?.view === 'section'" :ask="mine" compact />
        <SurveyPlan v-else :z="mine.place?.to[2] ?? 0" :ask="mine" compact />
      </div>
      <form class="pad" aria-label="Keypad" @submit.prevent="take">
        <div class="ticks" aria-hidden="true"></div>
        <div class="shown">
          <input
            v-model="entry"
            class="mono"
            inputmode="none"
            autocomplete="off"
            aria-label="What the tape says"
            :aria-invalid="Boolean(error)"
          />
          <span class="mono other" aria-live="polite">
            <span>{{ lines.main }} {{ lines.other }}</span>
            <span v-if="mine.expected">
              expected {{ say(mine.expected.figure, store.system) }} ±{{
                say(mine.expected.plus_minus, store.system)
              }}
            </span>
          </span>
        </div>
        <p v-if="store.waiting.length" role="status" class="error">
          No answer from the computer. {{ store.waiting.length }} readings wait here: keep this page
          open.
        </p>
        <p v-if="doubted || error" class="error" role="alert">{{ doubted || error }}</p>
        <p v-else-if="cameBack" class="error">
          Typed while the computer did not answer, not stored yet: look at it, then Next.
        </p>
        <p v-if="instead" class="soft">
          Reading instead: {{ mine.instead?.find((o) => o.quantity === instead)?.prompt }}
        </p>
        <el-input
          v-if="noting"
          v-model="note"
          placeholder="Note on this reading"
          aria-label="Note on this reading"
        />
        <TappedInch
          v-if="inches"
          :value="fraction"
          :denominator="store.project?.units?.denominator ?? 16"
          @choose="compose(whole, $event)"
        />
        <div class="keys">
          <div class="digits">
            <button
              v-for="key in inches ? INCH_KEYS : MM_KEYS"
              :key="key"
              type="button"
              class="key"
              :class="{ small: key.length > 1 }"
              :aria-label="key === '⌫' ? 'delete' : key"
              @click="press(key)"
            >
              {{ key }}
            </button>
          </div>
          <div class="side">
            <template v-if="!inches">
              <button type="button" class="key frac" @click="press('cm')">cm</button>
              <button type="button" class="key frac" @click="press('mm')">mm</button>
            </template>
            <button type="submit" class="key next" :disabled="busy">Next</button>
          </div>
        </div>
        <div class="row spread foot">
          <button type="button" class="plain foot-key" :disabled="!newest" @click="back">
            Mend last<template v-if="newest">: {{ say(newest.r.figure, store.system) }}</template>
          </button>
          <button
            v-if="!inches"
            type="button"
            class="plain foot-key"
            @click="skip('cannot be reached')"
          >
            Can’t reach
          </button>
          <label v-if="mayBeSoft" class="foot-key"
            ><input v-model="soft" type="checkbox" /> lining</label
          >
          <button
            v-for="other in mine.instead ?? []"
            :key="other.prompt"
            type="button"
            class="plain foot-key"
            :aria-pressed="instead === other.quantity"
            :aria-label="`Instead: ${other.prompt}`"
            @click="instead = instead === other.quantity ? null : other.quantity"
          >
            {{ instead === other.quantity ? "✓ " : "" }}Other way
          </button>
          <template v-if="mine.target.to === 'reading'">
            <button v-if="store.simulated" type="button" class="plain foot-key" @click="shoot">
              Simulated laser
            </button>
            <button v-else type="button" class="plain foot-key" @click="metering = true">
              Meter
            </button>
          </template>
          <button
            v-if="view.mending"
            type="button"
            class="plain foot-key"
            @click="view.mending = null"
          >
            Leave it
          </button>
          <button type="button" class="plain foot-key" @click="noting = !noting">Note</button>
        </div>
      </form>
      <MeterDialog v-model="metering" />
    </template>
    <div v-else class="done">
      <h2>Everything asked for is measured.</h2>
      <p v-if="worst" class="error">{{ worst.sentence }}</p>
      <p>{{ taken }} readings. Next: what has to go in.</p>
      <p>
        <router-link :to="{ name: 'stow' }" class="go">To the stow list</router-link>
      </p>
      <p class="soft">{{ readOut(result) }}</p>
    </div>
  </div>
</template>

<style scoped>
.phone {
  display: flex;
  flex-direction: column;
  min-height: 100%;
}
.progress {
  height: 8px;
  margin: 8px 14px 4px;
  background: var(--hair);
}
.progress i {
  display: block;
  height: 100%;
  background: var(--fine);
}
.question {
  padding: 4px 14px;
}
.question h2 {
  font-size: 24px;
  line-height: 1.15;
}
.where {
  flex: 1;
  min-height: 120px;
  display: flex;
  align-items: center;
  overflow: hidden;
}
.pad {
  position: sticky;
  bottom: 0;
  background: var(--tape);
  border-top: 1.5px solid var(--ink);
  padding: 16px 10px 4px;
}
.ticks {
  position: absolute;
  inset: 0 0 auto;
  height: 10px;
  background: repeating-linear-gradient(90deg, var(--tick) 0 1px, transparent 1px 9px);
}
.shown {
  display: flex;
  align-items: center;
  background: var(--paper);
  border: 1.5px solid var(--ink);
  padding: 4px 10px;
  gap: 8px;
}
.shown input {
  flex: 1 1 120px;
  min-width: 0;
  border: 0;
  background: none;
  color: var(--ink);
  font-size: 27px;
  font-weight: 700;
}
.other {
  text-align: right;
  font-size: 14px;
  line-height: 1.25;
}
.other span {
  display: block;
}
.keys {
  display: grid;
  grid-template-columns: 3fr 1.1fr;
  gap: 6px;
  margin-top: 8px;
}
.digits {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 6px;
}
.side {
  display: grid;
  grid-auto-rows: 1fr;
  gap: 6px;
}
.key.small {
  font-size: 14px;
}
mark {
  background: var(--tape);
  color: inherit;
  padding: 0 2px;
}
.key {
  min-height: 48px;
  border: 1.5px solid var(--tick);
  border-radius: var(--r);
  background: var(--tape-key);
  color: var(--ink);
  font: 700 20px var(--font);
}
.key.frac {
  background: var(--tape-frac);
}
.key.next {
  background: var(--ink);
  color: var(--on-ink);
}
.foot {
  padding: 2px 2px 4px;
}
.foot {
  flex-wrap: nowrap;
  gap: 14px;
  overflow-x: auto;
}
.foot-key {
  font-size: 14px;
  white-space: nowrap;
  min-height: var(--touch);
  display: inline-flex;
  align-items: center;
  gap: 6px;
  font-weight: 700;
}
.foot-key[disabled] {
  color: var(--ink-2);
}
.done {
  padding: 20px 14px;
}
.go {
  display: inline-flex;
  align-items: center;
  min-height: var(--touch);
  font-weight: 700;
}
.error {
  background: var(--paper);
  padding: 2px 0;
}
</style>
