/* The brake gain one step at a time: the phone lies still in its holder, one large button goes on. Without
   the script all steps stand one under the other. */

const begin = () => {
  for (const list of document.querySelectorAll("[data-routine]:not([data-begun])")) {
    list.dataset.begun = "1";
    const steps = [...list.children];
    const on = document.createElement("button");
    on.type = "button";
    on.className = "btn btn-plain way-wide";
    let at = 0;
    const show = () => {
      steps.forEach((step, index) => {
        step.hidden = index !== at;
      });
      on.textContent = at < steps.length - 1 ? `Next: ${at + 2} of ${steps.length}` : "From the first again";
    };
    on.addEventListener("click", () => {
      at = (at + 1) % steps.length;
      show();
    });
    list.setAttribute("aria-live", "polite");
    list.after(on);
    show();
  }
};

begin();
document.addEventListener("eyebolt:afresh", begin);
