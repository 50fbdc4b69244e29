// Looks at addresses as they are typed, and shows what was probably meant. Without it the form does the same when it is sent.
for (const input of document.querySelectorAll("[data-check]")) {
  let timer;
  let asked = "";
  const hint = document.createElement("p");
  hint.className = "fault";
  hint.setAttribute("role", "status");
  input.after(hint);
  const look = async () => {
    const written = input.value.trim();
    if (written === asked) return;
    asked = written;
    hint.replaceChildren();
    if (!/@.+\../.test(written.replace(/,/g, "."))) return;
    const body = new URLSearchParams({ address: written });
    const answer = await fetch(location.pathname.replace(/\/$/, "") + "/check", {
      method: "POST",
      body,
    }).then(
      (response) => (response.ok ? response.json() : undefined),
      () => undefined,
    );
    if (answer === undefined || input.value.trim() !== written || answer.sentence === "") return;
    const sign = document.createElement("b");
    sign.textContent = "! ";
    hint.append(sign, answer.sentence);
    if (answer.proposal === "") return;
    const take = document.createElement("a");
    take.href = "#";
    take.textContent = answer.proposal;
    take.addEventListener("click", (event) => {
      event.preventDefault();
      input.value = answer.proposal;
      hint.replaceChildren();
      input.focus();
    });
    hint.append(" ", take);
  };
  input.addEventListener("input", () => {
    clearTimeout(timer);
    timer = setTimeout(look, 500);
  });
  input.addEventListener("blur", look);
}
// One of the two answers to "did you mean": taking one lets go of the other.
for (const pair of document.querySelectorAll(".meant")) {
  const [first, second] = pair.querySelectorAll("input[type=checkbox]");
  if (second === undefined) continue;
  first.addEventListener("change", () => {
    second.checked = !first.checked;
  });
  second.addEventListener("change", () => {
    first.checked = !second.checked;
  });
}
document.querySelector(".faults")?.focus();
