/** The stages that exist, in the order of the job. */
export const STAGES = [
  { id: "survey", name: "Survey" },
  { id: "stow", name: "Stow" },
  { id: "heights", name: "Heights" },
  { id: "layout", name: "Layout" },
  { id: "templates", name: "Templates" },
  { id: "parts", name: "Parts" },
  { id: "cut", name: "Cut day" },
] as const;

export type StageId = (typeof STAGES)[number]["id"];
