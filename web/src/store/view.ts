import { defineStore } from "pinia";
import { ref, shallowRef, watch } from "vue";
import type { Finding, Mark, Plan } from "@/api/types";

/** What the person looks at: the marked thing, the number asked for, the palette. */
export const useView = defineStore("view", () => {
  const marked = ref("");
  /** Key of the number the tape bar asks for, if the person picked one. */
  const picked = ref("");
  /** A quantity to be measured again. */
  const again = ref<Mark | null>(null);
  /** A reading to be corrected: the newest one as typed. */
  const mending = ref<{ mark: Mark; id: string; typed: string } | null>(null);
  /** The plan of a named version, drawn behind the present one. */
  const compared = shallowRef<{ name: string; plan: Plan } | null>(null);
  /** The question answered last, so that what changed against it can be marked. */
  const before = ref("");
  const night = ref(localStorage.getItem("jigfit.night") === "yes");
  const findings = ref(false);

  watch(
    night,
    (on) => {
      document.documentElement.dataset.palette = on ? "night" : "day";
      localStorage.setItem("jigfit.night", on ? "yes" : "no");
    },
    { immediate: true },
  );

  function show(finding: Finding) {
    marked.value = finding.show?.mark ?? "";
  }

  /** Corrects a reading: the old one is set aside, not counted twice. */
  function mend(mark: Mark, id: string, typed: string) {
    mending.value = { mark, id, typed };
    again.value = null;
    picked.value = "";
  }

  function pick(key: string) {
    mending.value = null;
    again.value = null;
    picked.value = key;
  }

  function measureAgain(mark: Mark) {
    mending.value = null;
    again.value = mark;
    picked.value = "";
  }

  return {
    marked,
    picked,
    again,
    mending,
    before,
    compared,
    night,
    findings,
    show,
    pick,
    measureAgain,
    mend,
  };
});
