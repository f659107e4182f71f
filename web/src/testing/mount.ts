import { mount } from "@vue/test-utils";
import { getActivePinia } from "pinia";
import type { Component } from "vue";
import { createMemoryHistory, createRouter } from "vue-router";
import { STAGES } from "@/stages/stages";

const Blank = { template: "<i />" };

/** Mounts a component on a stage, with plain stand-ins for the widgets. */
export async function mountAt(component: Component, stage: string, props: object = {}) {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: "/", component: Blank },
      ...STAGES.map((s) => ({ path: `/p/:id/${s.id}`, name: s.id, component: Blank })),
    ],
  });
  await router.push(`/p/moth/${stage}`);
  const wrapper = mount(component, {
    props: props as never,
    attachTo: document.body,
    global: {
      plugins: [router, getActivePinia()!],
      stubs: {
        ElButton: { template: "<button><slot /></button>" },
        ElCheckbox: {
          props: ["modelValue"],
          emits: ["update:modelValue", "change"],
          template:
            '<label><input type="checkbox" :checked="modelValue" @change="$emit(\'update:modelValue\', $event.target.checked); $emit(\'change\', $event.target.checked)" /><slot /></label>',
        },
        ElInput: { template: "<input />" },
        ElDialog: { template: '<section><slot /><slot name="footer" /></section>' },
        ElSelect: { template: "<div><slot /></div>" },
        ElOption: { props: ["label"], template: "<span>{{ label }}</span>" },
      },
    },
  });
  return { wrapper, router };
}

/** Lets every answer of the stand-in server arrive. */
export async function settle() {
  for (let i = 0; i < 12; i++) await new Promise((done) => setTimeout(done, 0));
}
