"use strict";
(() => {
  const pack = JSON.parse(document.getElementById("pack").textContent);
  const words = pack.words;
  const root = document.documentElement;
  root.classList.add("live");
  const $ = (id) => document.getElementById(id);

  /* Sound: every strike and word once, placed in exact time. */

  let context = null;
  let out = null;
  const buffers = new Map();

  function audio() {
    if (!context) {
      context = new (window.AudioContext || window.webkitAudioContext)();
      out = context.createDynamicsCompressor();
      out.threshold.value = -6;
      out.ratio.value = 4;
      out.attack.value = 0.001;
      out.connect(context.destination);
    }
    if (context.state === "suspended") context.resume();
    return context;
  }

  function buffer(key) {
    let made = buffers.get(key);
    if (!made) {
      const bytes = atob(pack.sounds[key].pcm);
      const many = bytes.length >> 1;
      made = audio().createBuffer(1, many, pack.rate);
      const samples = made.getChannelData(0);
      for (let n = 0; n < many; n++) {
        let value = bytes.charCodeAt(2 * n) | (bytes.charCodeAt(2 * n + 1) << 8);
        if (value > 32767) value -= 65536;
        samples[n] = (value / 32767) * 1.5;
      }
      buffers.set(key, made);
    }
    return made;
  }

  function strike(key, when, gain, lean) {
    const source = context.createBufferSource();
    source.buffer = buffer(key);
    const loud = context.createGain();
    loud.gain.value = gain;
    source.connect(loud);
    if (lean && context.createStereoPanner) {
      const side = context.createStereoPanner();
      side.pan.value = lean;
      loud.connect(side);
      side.connect(out);
    } else {
      loud.connect(out);
    }
    const early = pack.sounds[key].vowel_s;
    const at = when - early;
    if (at >= context.currentTime) source.start(at);
    else source.start(0, Math.min(context.currentTime - at, early));
    return source;
  }

  /* Dancing. */

  const AHEAD_S = 0.25;
  const state = {
    item: pack.items[0], tempo: pack.items[0].tempo, swapped: pack.swapped, mirrored: pack.mirrored, again: true,
    from: null, to: null,
    steps: true, counts: true, beats: true, left: true, right: true, hands: true,
  };
  let run = null;
  let shown = -1;

  function span() {
    const item = state.item;
    const from = state.from === null ? item.first : item.first + state.from;
    const to = state.to === null ? item.end : item.first + state.to;
    return [from, Math.max(to, from + 1)];
  }

  function across(foot) {
    return state.swapped ? { left: "right", right: "left" }[foot] || foot : foot;
  }

  function lean(foot) {
    const side = { left: -0.45, right: 0.45 }[across(foot)] || 0;
    return state.mirrored ? -side : side;
  }

  /* All that happens in one time through, by its place; of a pick-up, what leads into the next time. */
  function events(time) {
    const item = state.item;
    const [from, to] = span();
    const whole = from === item.first && to === item.end;
    const found = [];
    const inside = (place) => place >= from - 1e-6 && place < to - 1e-6;
    for (const [place, key, gain, foot, hand] of item.sounds) {
      if (!key || !state.steps) continue;
      if (hand ? !state.hands : foot && foot !== "both" && !state[across(foot)]) continue;
      if (inside(place)) found.push([place, key, gain, lean(foot)]);
      else if (whole && place < from && time === 0) found.push([place, key, gain, lean(foot)]);
      else if (whole && place < from && state.again) found.push([place + (to - from), key, gain, lean(foot)]);
    }
    if (whole && place0(item) < from && time > 0) {
      for (const event of found) if (event[0] < from) event[0] += to - from;
    }
    if (state.counts) for (const [place, , key] of item.counts) if (key && inside(place)) found.push([place, key, 0.9, 0]);
    if (state.beats) for (const [place, key] of item.beats) if (inside(place)) found.push([place, key, 0.7, 0]);
    if (time === 0 && whole) {
      for (const [place, , key] of item.led) if (key) found.push([place, key, 0.9, 0]);
      for (const [place, key] of item.led_beats) found.push([place, key, 0.7, 0]);
    }
    return found.sort((a, b) => a[0] - b[0]);
  }

  function place0(item) {
    return item.sounds.length ? Math.min(item.first, item.sounds[0][0]) : item.first;
  }

  function start() {
    stop();
    audio();
    const item = state.item;
    const [from, to] = span();
    const whole = from === item.first && to === item.end;
    const begin = whole ? Math.min(item.origin, from) : from;
    run = {
      place: begin, at: context.currentTime + 0.12, time: 0, list: events(0), next: 0, offset: 0, live: [], timer: 0,
    };
    run.timer = setInterval(tick, 40);
    tick();
    show(true);
    requestAnimationFrame(follow);
  }

  function seconds(place) {
    return run.at + ((place - run.place) * 60) / state.tempo;
  }

  function placeNow() {
    return run.place + ((context.currentTime - run.at) * state.tempo) / 60;
  }

  function tick() {
    if (!run) return;
    const [from, to] = span();
    const until = context.currentTime + AHEAD_S;
    for (;;) {
      if (run.next >= run.list.length) {
        const over = seconds(run.offset + to);
        if (!state.again) {
          if (context.currentTime > over + 0.3) stop();
          return;
        }
        if (over > until) return;
        run.offset += to - from;
        run.time += 1;
        run.list = events(run.time);
        run.next = 0;
        continue;
      }
      const [place, key, gain, side] = run.list[run.next];
      const when = seconds(run.offset + place);
      if (when > until) return;
      if (when > context.currentTime - 0.05) run.live.push(strike(key, when, gain, side));
      run.next += 1;
      if (run.live.length > 200) run.live.splice(0, 100);
    }
  }

  function stop() {
    if (!run) return;
    clearInterval(run.timer);
    for (const one of run.live) { try { one.stop(); } catch (_) { /* over already */ } }
    run = null;
    show(false);
  }

  function setTempo(tempo) {
    const [low, high] = state.item.bounds;
    const wanted = Math.round(Math.min(high, Math.max(low, tempo || state.item.tempo)));
    if (run) {
      run.place = placeNow();
      run.at = context.currentTime;
    }
    state.tempo = wanted;
    $("tempo").value = wanted;
  }

  function changed() {
    /* What is due is made anew from where it is. */
    if (!run) return;
    const now = placeNow() - run.offset;
    run.list = events(run.time).filter((event) => event[0] > now + (AHEAD_S * state.tempo) / 60);
    run.next = 0;
  }

  /* What is seen. */

  function strips() {
    const other = state.swapped !== state.mirrored;
    for (const box of document.querySelectorAll("[data-strip]")) {
      box.hidden = box.dataset.strip !== state.item.id || (box.dataset.side === "other") !== other;
    }
    for (const box of document.querySelectorAll("[data-said]")) box.hidden = box.dataset.said !== state.item.id;
  }

  function show(dancing) {
    $("play").textContent = dancing ? words.stop : words.play;
    if (!dancing) {
      shown = -1;
      $("now-word").textContent = state.item.name;
      $("now-count").textContent = "";
      for (const one of document.querySelectorAll("svg .on, svg.on")) one.classList.remove("on");
    }
  }

  function follow() {
    if (!run) return;
    const late = context.outputLatency || context.baseLatency || 0;
    const place = placeNow() - run.offset - (late * state.tempo) / 60;
    const item = state.item;
    let index = -1;
    for (let n = 0; n < item.sounds.length; n++) if (item.sounds[n][0] <= place + 1e-6) index = n;
    const count = item.counts.filter((one) => one[0] <= place + 1e-6).pop();
    const led = item.led.filter((one) => one[0] <= place + 1e-6).pop();
    $("now-count").textContent = count ? count[1] : led && place < item.first ? led[1] : "";
    let word = "";
    for (const [first, text] of item.words) if (first <= index) word = text;
    $("now-word").textContent = index >= 0 ? word : "";
    if (index !== shown) {
      shown = index;
      for (const one of document.querySelectorAll("svg .on, svg.on")) one.classList.remove("on");
      for (const box of document.querySelectorAll("[data-strip]")) {
        if (box.hidden) continue;
        const sound = box.querySelector(`.sound[data-i="${index}"]`);
        if (!sound) continue;
        sound.classList.add("on");
        const row = sound.closest("svg");
        if (!row.classList.contains("on")) row.classList.add("on");
        const where = row.getBoundingClientRect();
        if (where.top < 130 || where.bottom > window.innerHeight) row.scrollIntoView({ block: "center" });
      }
    }
    requestAnimationFrame(follow);
  }

  function choose(id) {
    stop();
    state.item = pack.items.find((one) => one.id === id) || pack.items[0];
    state.from = state.to = null;
    fill("from", true);
    fill("to", false);
    setTempo(state.item.tempo);
    strips();
    show(false);
  }

  function fill(name, first) {
    const box = $(name);
    box.textContent = "";
    const all = document.createElement("option");
    all.value = "";
    all.textContent = words.all;
    box.append(all);
    const many = Math.round(state.item.end - state.item.first);
    for (let n = 0; n < many; n++) {
      const option = document.createElement("option");
      option.value = first ? n : n + 1;
      option.textContent = `${n + 1}`;
      box.append(option);
    }
  }

  function toggle(name, on) {
    state[name] = on === undefined ? !state[name] : on;
    const box = $(name);
    if (box.type === "checkbox") box.checked = state[name];
    else box.setAttribute("aria-pressed", String(state[name]));
    if (name === "swapped" || name === "mirrored") strips();
    changed();
  }

  $("play").addEventListener("click", () => (run ? stop() : start()));
  $("slower").addEventListener("click", () => setTempo(state.tempo - 4));
  $("faster").addEventListener("click", () => setTempo(state.tempo + 4));
  $("tempo").addEventListener("change", (event) => setTempo(Number(event.target.value)));
  for (const name of ["swapped", "mirrored", "again"]) {
    $(name).addEventListener("click", () => toggle(name));
    toggle(name, state[name]);
  }
  for (const name of ["steps", "counts", "beats", "left", "right", "hands"]) {
    $(name).addEventListener("change", (event) => toggle(name, event.target.checked));
  }
  for (const name of ["from", "to"]) {
    $(name).addEventListener("change", (event) => {
      state[name] = event.target.value === "" ? null : Number(event.target.value);
      if (run) start();
    });
  }
  if ($("item")) $("item").addEventListener("change", (event) => choose(event.target.value));

  const looks = { dark: false, large: false };
  function look(name, on) {
    looks[name] = on;
    root.classList.toggle(name, on);
    $(name).setAttribute("aria-pressed", String(on));
    keep();
  }
  $("dark").addEventListener("click", () => look("dark", !looks.dark));
  $("large").addEventListener("click", () => look("large", !looks.large));

  /* Her own recording: it stays on this phone. */

  const mine = $("mine-sound");
  $("mine-file").addEventListener("change", (event) => {
    const file = event.target.files[0];
    if (!file) return;
    if (mine.src) URL.revokeObjectURL(mine.src);
    mine.src = URL.createObjectURL(file);
    mine.hidden = false;
    $("mine-both").hidden = false;
  });
  let both = false;
  $("mine-both").addEventListener("click", () => {
    stop();
    audio();
    both = true;
    mine.currentTime = 0;
    mine.play();
  });
  mine.addEventListener("ended", () => {
    if (both) start();
    both = false;
  });

  /* The ear is asked. */

  const did = { answers: [], ticks: {} };
  function score() {
    const right = did.answers.filter((one) => one.right).length;
    if ($("score")) $("score").textContent = did.answers.length ? `${right}/${did.answers.length} ${words.score}` : "";
  }
  document.querySelectorAll(".asked").forEach((box) => {
    const question = pack.questions[Number(box.dataset.q)];
    box.querySelector(".hear").addEventListener("click", () => {
      stop();
      audio();
      const begin = context.currentTime + 0.15;
      for (const [at, key, gain, foot] of question.events) {
        strike(key, begin + at, gain, { left: -0.45, right: 0.45 }[foot] || 0);
      }
    });
    box.querySelectorAll(".answer").forEach((button, number) => {
      button.addEventListener("click", () => {
        if (box.dataset.done) return;
        box.dataset.done = "1";
        const right = number === question.right;
        did.answers.push({ kind: question.kind, right, when: new Date().toISOString() });
        button.setAttribute("aria-pressed", "true");
        const told = box.querySelector(".told");
        told.textContent = `${right ? words.right_answer : words.wrong_answer} ${question.answers[question.right]}. ${question.why}`;
        score();
        keep();
      });
    });
  });

  /* Practice, ticked. */

  document.querySelectorAll("[data-tick]").forEach((box) => {
    box.addEventListener("change", () => {
      did.ticks[box.dataset.tick] = { how: box.value, when: new Date().toISOString() };
      if (!box.value) delete did.ticks[box.dataset.tick];
      keep();
    });
  });

  function whatIDid() {
    const ticks = Object.entries(did.ticks).map(([number, one]) => {
      const stage = pack.practice[Number(number)];
      const item = pack.items.find((other) => other.id === stage.part) || {};
      return {
        when: one.when, how: one.how, part: stage.part, name: stage.name, hash: item.hash || "",
        tempo: stage.to || stage.tempo, sides: stage.sides, day: stage.day,
      };
    });
    return {
      firn: "did", version: 1, pack: pack.id, student: pack.student, made: new Date().toISOString(), piece: pack.piece,
      answers: did.answers, ticks,
    };
  }
  $("did-make").addEventListener("click", () => {
    const text = JSON.stringify(whatIDid());
    $("did-text").value = text;
    $("did-out").hidden = false;
    const link = $("did-file");
    if (link.href.startsWith("blob:")) URL.revokeObjectURL(link.href);
    link.href = URL.createObjectURL(new Blob([text], { type: "application/json" }));
    link.download = `${pack.did_name}.json`;
    $("did-text").focus();
    $("did-text").select();
  });
  $("did-copy").addEventListener("click", () => {
    $("did-text").select();
    if (navigator.clipboard) navigator.clipboard.writeText($("did-text").value).catch(() => document.execCommand("copy"));
    else document.execCommand("copy");
  });

  /* Kept where there is storage; all works where there is none. */

  function keep() {
    try { localStorage.setItem(`firn ${pack.id}`, JSON.stringify({ did, looks })); } catch (_) { /* no storage */ }
  }
  function recall() {
    let kept = null;
    try { kept = JSON.parse(localStorage.getItem(`firn ${pack.id}`)); } catch (_) { kept = null; }
    if (!kept) {
      look("dark", window.matchMedia("(prefers-color-scheme: dark)").matches);
      return;
    }
    Object.assign(did.ticks, kept.did.ticks);
    did.answers.push(...kept.did.answers);
    for (const [number, one] of Object.entries(did.ticks)) {
      const box = document.querySelector(`[data-tick="${number}"]`);
      if (box) box.value = one.how;
    }
    look("dark", kept.looks.dark);
    look("large", kept.looks.large);
    score();
  }

  document.addEventListener("keydown", (event) => {
    const tag = event.target.tagName;
    if (event.ctrlKey || event.altKey || event.metaKey || ["INPUT", "SELECT", "TEXTAREA"].includes(tag)) {
      if (tag !== "INPUT" || event.target.type !== "checkbox") return;
    }
    const keys = {
      "+": () => setTempo(state.tempo + 4), "=": () => setTempo(state.tempo + 4), "-": () => setTempo(state.tempo - 4),
      o: () => toggle("swapped"), m: () => toggle("mirrored"), c: () => toggle("counts"), b: () => toggle("beats"),
      l: () => toggle("again"), d: () => look("dark", !looks.dark), t: () => look("large", !looks.large),
      " ": () => { if (tag !== "BUTTON" && tag !== "SUMMARY") run ? stop() : start(); },
    };
    const key = keys[event.key.toLowerCase()];
    if (!key) return;
    if (event.key === " " && (tag === "BUTTON" || tag === "SUMMARY" || event.target.type === "checkbox")) return;
    event.preventDefault();
    key();
  });

  choose(pack.items[0].id);
  recall();
})();
