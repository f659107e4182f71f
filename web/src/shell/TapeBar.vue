<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import { STAGES } from "@/stages/stages";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { readOut, say } from "@/units/text";
import MeterDialog from "./MeterDialog.vue";
import { useAsk } from "./useAsk";

const store = useProject();
const view = useView();
const {
  ask,
  parts,
  elsewhere,
  cameBack,
  entry,
  soft,
  error,
  doubted,
  busy,
  result,
  instead,
  take,
  skip,
  press,
} = useAsk();
const input = ref<HTMLInputElement | null>(null);
const metering = ref(false);
const route = useRoute();
const router = useRouter();
/** Where nothing is asked for, one slim line. */
const slim = computed(() => ask.value === null || (elsewhere.value && !open.value));
/** The person wants to type here although the number belongs to another stage. */
const open = ref(false);
watch(
  () => route.name,
  () => (open.value = false),
);
const stage = computed(() => STAGES.find((s) => s.id === ask.value?.stage)?.name ?? "");

const typed = computed(() => readOut(result.value));
const misread = computed(() =>
  result.value && "error" in result.value ? result.value.error.detail : "",
);
const reading = computed(() => ask.value?.target.to !== "field");
const mayBeSoft = computed(
  () => ask.value?.target.to === "reading" && ask.value.target.may_be_soft,
);

async function next() {
  await take();
  input.value?.focus();
}
</script>

<template>
  <form class="tape" :class="{ slim }" aria-label="Tape bar" @submit.prevent="next">
    <div class="ticks" aria-hidden="true"></div>
    <p v-if="store.waiting.length" class="waits" role="status">
      The program does not answer. {{ store.waiting.length }} readings wait in this page: keep it
      open, they go when it answers.
    </p>
    <template v-if="ask && slim">
      <p class="what wide">
        <b>{{ stage }} asks for: {{ ask.prompt }}</b>
      </p>
      <el-button class="here" @click="open = true">Type it here</el-button>
      <el-button @click="router.push({ name: ask.stage })">To {{ stage }}</el-button>
    </template>
    <template v-else-if="ask">
      <label class="what" for="tape-entry">
        <b
          ><template v-for="(p, i) in parts" :key="i"
            ><template v-if="i">, </template><mark v-if="p.changed">{{ p.text }}</mark
            ><template v-else>{{ p.text }}</template></template
          ></b
        >
        <span>{{ ask.how }}</span>
        <span v-if="ask.instead?.length" class="instead">
          <button
            v-for="other in ask.instead"
            :key="other.prompt"
            type="button"
            class="plain"
            :aria-pressed="instead === other.quantity"
            @click.prevent="instead = instead === other.quantity ? null : other.quantity"
          >
            {{ instead === other.quantity ? "reading" : "or read" }}:
            {{ other.prompt.toLowerCase() }}
          </button>
        </span>
      </label>
      <input
        id="tape-entry"
        ref="input"
        v-model="entry"
        class="entry mono"
        autocomplete="off"
        spellcheck="false"
        placeholder="23 3/16   7' 2 1/2   61.2 cm"
        :aria-invalid="Boolean(error || misread)"
        aria-describedby="tape-says"
      />
      <div id="tape-says" class="says mono" aria-live="polite">
        <span v-if="doubted" class="error">{{ doubted }}</span>
        <span v-else-if="error || misread" class="error">{{ error || misread }}</span>
        <span v-else-if="cameBack" class="error">
          Typed while the program did not answer, not stored yet: look at it, then Next.
        </span>
        <template v-else>
          <span v-if="typed" class="value">{{ typed }}</span>
          <span v-if="ask.expected" class="expected">
            expected {{ say(ask.expected.figure, store.system) }} ±{{
              say(ask.expected.plus_minus, store.system)
            }}
          </span>
          <span v-if="!typed && !ask.expected" class="why">{{ ask.why }}</span>
        </template>
      </div>
      <el-checkbox v-if="mayBeSoft" v-model="soft" class="soft-box">against a lining</el-checkbox>
      <template v-if="ask.target.to === 'reading'">
        <el-button v-if="store.simulated" @click="press">Simulated laser</el-button>
        <el-button v-else @click="metering = true">Meter</el-button>
      </template>
      <el-button
        v-if="view.again || view.mending"
        @click="
          view.again = null;
          view.mending = null;
        "
        >Leave it</el-button
      >
      <el-button v-else-if="reading" @click="skip('cannot be reached')">Can’t reach</el-button>
      <el-button native-type="submit" class="next" :disabled="busy">Next ⏎</el-button>
    </template>
    <template v-else>
      <p class="what wide">
        <b>Every number asked for is there.</b>
      </p>
    </template>
    <MeterDialog v-model="metering" />
  </form>
</template>

<style scoped>
.tape {
  grid-area: tape;
  position: relative;
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 18px 18px 12px 16px;
  background: var(--tape);
  border-top: 1.5px solid var(--ink);
  color: var(--ink);
}
.ticks {
  position: absolute;
  inset: 0 0 auto;
  height: 12px;
  background:
    repeating-linear-gradient(90deg, var(--tick) 0 1.5px, transparent 1.5px 96px) 0 0 / 100% 12px
      no-repeat,
    repeating-linear-gradient(90deg, var(--tick) 0 1px, transparent 1px 12px) 0 0 / 100% 6px
      no-repeat;
}
.tape.slim {
  padding: 8px 18px 5px 16px;
}
.slim .ticks {
  height: 5px;
}
.waits {
  flex: 1 1 100%;
  font-weight: 700;
}
mark {
  background: var(--paper);
  color: inherit;
  padding: 0 2px;
}
.what {
  flex: 0 1 270px;
  min-width: 150px;
  line-height: 1.25;
}
.what.wide {
  flex: 1;
}
.what b,
.what span {
  display: block;
}
.what span {
  font-size: 13px;
}
.instead button {
  min-height: 24px;
  padding: 0;
  text-decoration: underline;
  text-align: left;
  font-size: 13px;
}
.instead button[aria-pressed="true"] {
  font-weight: 700;
}
.entry {
  flex: 0 1 260px;
  min-width: 120px;
  height: 46px;
  padding: 0 12px;
  border: 1.5px solid var(--ink);
  border-radius: var(--r);
  background: var(--paper);
  color: var(--ink);
  font-size: 21px;
  font-weight: 700;
}
.entry::placeholder {
  font-size: 14px;
  font-weight: 400;
  color: var(--ink-2);
}
.says {
  flex: 1 1 180px;
  font-size: 15px;
  line-height: 1.3;
  min-width: 0;
}
.says span {
  display: block;
}
.value {
  white-space: pre-wrap;
  font-weight: 700;
}
.expected,
.why {
  color: var(--ink);
  font-size: 13.5px;
}
.why {
  font-family: var(--font);
}
.says .error {
  color: var(--stop);
  font-family: var(--font);
  background: var(--paper);
  padding: 2px 6px;
}
.tape :deep(.el-button + .el-button) {
  margin-left: 0;
}
.tape :deep(.el-checkbox) {
  --el-checkbox-text-color: var(--ink);
  --el-checkbox-input-border: 1.5px solid var(--ink);
  margin: 0;
}
.next {
  border-color: var(--ink) !important;
}
@media (max-width: 1180px) {
  .soft-box {
    max-width: 90px;
  }
}
@media (max-width: 720px) {
  .tape {
    flex-wrap: wrap;
    gap: 8px;
    padding: 16px 12px 10px;
  }
  /* One line where the stage asks for nothing: the screen is for what matters. */
  .tape.slim {
    flex-wrap: nowrap;
    padding: 7px 12px 5px;
  }
  /* Two lines of it: what is asked has to be read. */
  .slim .what {
    min-width: 0;
    overflow: hidden;
    font-size: 14px;
    line-height: 1.15;
    display: -webkit-box;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
    line-clamp: 2;
  }
  .slim .here {
    display: none;
  }
  .what,
  .says {
    flex: 1 1 100%;
  }
  .entry {
    flex: 1 1 150px;
  }
  .soft-box {
    display: none;
  }
}
</style>
