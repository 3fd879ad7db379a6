/* Parts of pages that open, grow and depend on a choice, for Alpine. */

/* a menu that is a fold closes on Escape and on a press beside it */
const menus = () => document.querySelectorAll("details.dropdown[open]");
document.addEventListener("keydown", (event) => {
  if (event.key !== "Escape") return;
  for (const menu of menus()) {
    menu.open = false;
    menu.querySelector("summary").focus();
  }
});
document.addEventListener("click", (event) => {
  for (const menu of menus())
    if (!menu.contains(event.target)) menu.open = false;
});

document.addEventListener("alpine:init", () => {
  Alpine.data("fold", () => ({
    open: false,
    get closed() {
      return !this.open;
    },
    get shown() {
      return this.open ? "true" : "false";
    },
    get shownClass() {
      return this.open ? "show" : "";
    },
    toggle() {
      this.open = !this.open;
    },
    close() {
      this.open = false;
    },
  }));

  /* a list of rows that grows: the empty row stands ready in a <template> */
  Alpine.data("rows", () => ({
    add() {
      const prefix = this.$root.dataset.prefix;
      const total = this.$root.querySelector(`[name="${prefix}-TOTAL_FORMS"]`);
      const template = this.$root.querySelector("template");
      const holder = this.$root.querySelector(".rows");
      const fresh = template.content.cloneNode(true);
      for (const element of fresh.querySelectorAll("[name], [id], [for]")) {
        for (const attribute of ["name", "id", "for"]) {
          const value = element.getAttribute(attribute);
          if (value) element.setAttribute(attribute, value.replace("__prefix__", total.value));
        }
      }
      const row = fresh.firstElementChild;
      holder.append(fresh);
      if (window.htmx) window.htmx.process(row);
      total.value = String(Number(total.value) + 1);
      holder.lastElementChild.querySelector("input:not([type=hidden])").focus();
    },
  }));

  /* one choice for all of several questions: buttons whose value is that of their radios */
  Alpine.data("alike", () => ({
    all(event) {
      for (const radio of this.$root.querySelectorAll("input[type=radio]"))
        if (radio.value === event.target.value) radio.checked = true;
    },
  }));

  /* sections that belong to one choice of a box: data-when="built=whole" */
  Alpine.data("choices", () => ({
    init() {
      this.choose();
    },
    choose() {
      for (const section of this.$root.querySelectorAll("[data-when]")) {
        const [name, values] = section.dataset.when.split("=");
        const box = this.$root.querySelector(`[name="${name}"]`);
        /* what is wrong is never hidden */
        section.hidden = !values.split(" ").includes(box.value) && !section.querySelector("p.wrong");
      }
    },
  }));
});
