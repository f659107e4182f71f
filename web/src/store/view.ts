import { defineStore } from "pinia";
import { ref, watch } from "vue";
import type { Finding, Mark } from "@/api/types";

/** What the person looks at: the marked thing, the number asked for, the palette. */
export const useView = defineStore("view", () => {
  const marked = ref("");
  /** Key of the number the tape bar asks for, if the person picked one. */
  const picked = ref("");
  /** A quantity to be measured again. */
  const again = ref<Mark | null>(null);
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

  function pick(key: string) {
    again.value = null;
    picked.value = key;
  }

  function measureAgain(mark: Mark) {
    again.value = mark;
    picked.value = "";
  }

  return { marked, picked, again, night, findings, show, pick, measureAgain };
});
