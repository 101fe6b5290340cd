// Behaviours of the pages: opening, keys, sending while one types. No rule of bread stands here.

const inField = (target) => target instanceof Element && target.closest('input, textarea, select') !== null;

// Single keys act only outside fields, without a modifier, and where they are not switched off.
const silent = (e) => e.ctrlKey || e.metaKey || e.altKey || inField(e.target) || localStorage.getItem('cerealis-keys') === 'off';
const PAGES = { t: '/', f: '/formula', l: '/leaven', p: '/plan', b: '/bakeday', o: '/oven', g: '/logbook', k: '/kitchen' };

// What a finger is on is not replaced under it, or its tap would be lost: the answer waits until the tap has gone out.
const LIFTED_MS = 80;
let finger = false;
const waiting = [];
const lifted = () => {
  if (!finger) return;
  setTimeout(() => { finger = false; for (const merge of waiting.splice(0)) merge(); }, LIFTED_MS);
};
document.addEventListener('pointerdown', (e) => { finger = e.target instanceof Element && e.target.closest('button, summary, label, a') !== null; }, true);
document.addEventListener('pointerup', lifted, true);
document.addEventListener('pointercancel', lifted, true);
document.addEventListener('ajax:merge', (e) => {
  if (!finger) return;
  e.preventDefault();
  waiting.push(e.detail.merge);
});

// A deed that is tapped while another is on its way waits for its answer: the sheet it stands on is about to be another one.
let under = null;
let next = null;
document.addEventListener('submit', (e) => {
  const { target: form, submitter } = e;
  if (!submitter?.name || !form.hasAttribute('x-target') || submitter.hasAttribute('formnoajax')) return;
  if (under?.isConnected) {
    e.preventDefault();
    e.stopImmediatePropagation();
    next = { name: submitter.name, value: submitter.value };
  } else under = form;
}, true);
const answered = () => {
  const waits = next;
  [under, next] = [null, null];
  if (waits) document.querySelector(`button[name="${CSS.escape(waits.name)}"][value="${CSS.escape(waits.value)}"]`)?.click();
};
document.addEventListener('ajax:merged', (e) => {
  if (under?.getAttribute('x-target').split(' ').includes(e.target.getAttribute?.('id'))) answered();
});
// An answer that is nothing to merge ends the wait too; one that a finger holds up is merged later.
window.addEventListener('ajax:after', () => { if (under && !waiting.length) answered(); });

// Where one stands is found again in what takes its place, with what was typed there meanwhile.
let stood = null;
document.addEventListener('ajax:merge', (e) => {
  const at = document.activeElement;
  if (!(e.target instanceof Element) || !at?.matches('input, select, textarea, button') || !e.target.contains(at)) return;
  const same = at.type === 'radio' || at.tagName === 'BUTTON' ? `[name="${CSS.escape(at.name)}"][value="${CSS.escape(at.value)}"]` : `[name="${CSS.escape(at.name)}"]`;
  stood = { same: at.id ? `#${CSS.escape(at.id)}` : same, typed: at.matches('input:not([type=radio], [type=checkbox]), textarea') && at.value !== at.defaultValue ? at.value : null };
});
document.addEventListener('ajax:merged', () => {
  const now = stood && document.activeElement === document.body ? document.querySelector(stood.same) : null;
  if (now && stood.typed !== null) now.value = stood.typed;
  now?.focus({ preventScroll: true });
  stood = null;
});

// Days and hours: an instant of the field's own clock, written as the pages write it.
const DAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const civil = (text) => new Date(`${text}:00Z`);
const words = (text, now) => {
  const [at, here] = [civil(text), civil(now || text)];
  const gap = Math.round((civil(`${text.slice(0, 10)}T00:00`) - civil(`${(now || text).slice(0, 10)}T00:00`)) / 86_400_000);
  const named = now && { 0: 'today', 1: 'tomorrow', [-1]: 'yesterday' }[gap];
  const year = at.getUTCFullYear() === here.getUTCFullYear() ? '' : ` ${at.getUTCFullYear()}`;
  const day = named || `${DAYS[at.getUTCDay()]} ${at.getUTCDate()} ${MONTHS[at.getUTCMonth()]}${year}`;
  const [hour, minute] = [at.getUTCHours(), String(at.getUTCMinutes()).padStart(2, '0')];
  if (document.documentElement.dataset.clock !== '12') return `${day} ${String(hour).padStart(2, '0')}:${minute}`;
  return `${day} ${hour % 12 || 12}:${minute} ${hour < 12 ? 'am' : 'pm'}`;
};
const put = (field, text) => {
  field.value = words(text, field.dataset.now);
  field.dataset.at = text;
};
/** A quarter of an hour on: to the next whole one. */
const nudge = (field, minutes) => {
  const from = field.dataset.at || field.dataset.now;
  if (!from) return;
  const quarter = Math.abs(minutes) * 60_000;
  const now = civil(from).getTime();
  const next = minutes > 0 ? Math.floor(now / quarter + 1) * quarter : Math.ceil(now / quarter - 1) * quarter;
  put(field, new Date(next).toISOString().slice(0, 16));
  field.dispatchEvent(new Event('change', { bubbles: true }));
};
document.addEventListener('click', (e) => {
  const button = e.target instanceof Element ? e.target.closest('[data-nudge]') : null;
  const field = button?.closest('.whenrow')?.querySelector('.when');
  if (field) nudge(field, Number(button.dataset.nudge));
});
document.addEventListener('keydown', (e) => {
  const by = { ArrowUp: 15, ArrowDown: -15 }[e.key];
  if (!by || !(e.target instanceof Element) || !e.target.matches('input.when')) return;
  e.preventDefault();
  nudge(e.target, by);
});
// What is typed by hand is read by the server: what the field stood for before is gone.
document.addEventListener('input', (e) => {
  if (e.target instanceof Element && e.target.matches('input.when')) delete e.target.dataset.at;
}, true);

document.addEventListener('alpine:init', () => {
  /** Keys that lead to pages. */
  Alpine.data('keys', () => ({
    init() {
      this.pressed = (e) => {
        if (silent(e) || !PAGES[e.key]) return;
        location.assign(PAGES[e.key]);
      };
      document.addEventListener('keydown', this.pressed);
    },
    destroy() { document.removeEventListener('keydown', this.pressed); },
  }));

  /** Single keys on or off, kept on this device. */
  Alpine.data('keyswitch', () => ({
    on: localStorage.getItem('cerealis-keys') !== 'off',
    get label() { return this.on ? 'Switch them off' : 'Switch them on'; },
    init() { this.$root.hidden = false; },
    turn() {
      this.on = !this.on;
      localStorage.setItem('cerealis-keys', this.on ? 'on' : 'off');
    },
  }));

  /** A file dropped or picked stands in the field and is read; what it is, the server tells. */
  Alpine.data('drop', () => ({
    said: '',
    init() { this.$refs.pick.hidden = false; },
    over() { this.$root.classList.add('dropping'); },
    away() { this.$root.classList.remove('dropping'); },
    async take(file) {
      this.away();
      if (file.size > 700_000) { this.said = 'That file is too big: 700 kB at most. Copy the words of the recipe instead.'; return; }
      this.$refs.text.value = await file.text();
      this.$root.requestSubmit();
    },
    picked(event) { const [file] = event.target.files; if (file) this.take(file); },
    dropped(event) {
      // Words dropped go into the field as they do everywhere.
      const [file] = event.dataTransfer?.files ?? [];
      if (file) { event.preventDefault(); this.take(file); } else this.away();
    },
  }));

  /** Prints the page; what is no part of the paper is hidden by the style sheet. */
  Alpine.data('print', () => ({ now() { window.print(); } }));

  /** The film of a piece cut through: plays slowly, can be stopped and stepped. It never starts by itself. */
  Alpine.data('film', () => ({
    at: 0, going: null,
    get label() { return this.going ? 'Stop' : 'Play'; },
    init() {
      this.last = Number(this.$root.dataset.last);
      this.at = Number(this.$root.dataset.first);
      this.$watch('at', () => this.show());
    },
    destroy() { clearInterval(this.going); },
    show() {
      for (const group of this.$root.querySelectorAll('svg, .filmsays')) {
        group.querySelectorAll(':scope > .fr').forEach((frame, i) => frame.classList.toggle('on', i === this.at));
      }
    },
    stop() { clearInterval(this.going); this.going = null; },
    step(by) { this.stop(); this.at = Math.min(this.last, Math.max(0, this.at + by)); },
    turn() {
      if (this.going) { this.stop(); return; }
      if (this.at >= this.last) this.at = 0;
      this.going = setInterval(() => { if (this.at >= this.last) this.stop(); else this.at += 1; }, 700);
    },
  }));

  /** Light or dark, kept on this device. */
  Alpine.data('theme', () => ({
    turn() {
      const next = document.documentElement.dataset.bsTheme === 'dark' ? 'light' : 'dark';
      document.documentElement.dataset.bsTheme = next;
      localStorage.setItem('cerealis-theme', next);
    },
  }));

  /** The formula's sheet: figures follow while one types; the fields themselves are never replaced. */
  Alpine.data('sheet', () => ({
    /** What was typed before this script was there is worked out now. */
    init() {
      this.$root.classList.add('live');
      this.$nextTick(() => {
        const fields = [...this.$root.querySelectorAll('input:is([name^="lines["], [name^="scale["]):not([type="hidden"])')];
        fields.find((f) => f.value !== f.defaultValue)?.dispatchEvent(new Event('input', { bubbles: true }));
      });
    },
    typed(event) {
      const form = this.$root;
      // A deed may have put a new sheet in its place while the hand rested.
      if (!(event.target instanceof Element) || !form?.isConnected) return;
      const body = new FormData(form);
      body.append('field', event.target.name || '');
      // The part of the sentence the hand is in stays; the others follow.
      const parts = [...form.querySelectorAll('.amount [id^="amt-"]')].filter((part) => {
        const around = part.parentElement.closest('[id^="amt-"]');
        return !part.contains(document.activeElement) && (!around || around.contains(document.activeElement));
      });
      const targets = [...form.dataset.targets.split(' '), ...parts.map((part) => part.id)];
      this.$ajax(form.action, { method: 'post', targets, body, focus: false });
    },
    /** A figure that is written is kept, unless another one is kept already, to which it then is a further wish. */
    keeps(event) {
      const part = event.target;
      if (!(part instanceof Element) || !part.dataset.keeps) return;
      const own = part.dataset.keeps;
      const kept = this.$root.querySelector('input[name="scale[keep]"]:checked')?.value;
      const written = [...this.$root.querySelectorAll(`input[data-keeps="${kept}"]`)].some((other) => other !== part && other.value.trim());
      const inSentence = own === 'pieces' || own === 'flour';
      if (own === kept || (inSentence && written)) return;
      const radio = this.$root.querySelector(`#keep-${own}`);
      if (radio) radio.checked = true;
    },
    /** From a piece of the text to the field of the line it became. */
    toField(event) {
      const field = document.querySelector(event.currentTarget.getAttribute('href'));
      if (field) { event.preventDefault(); field.focus(); }
    },
    /** Enter in the field of a word that is not read answers it. */
    named(event) {
      event.preventDefault();
      event.stopPropagation();
      event.currentTarget.nextElementSibling?.click();
    },
    /** Enter goes to the next line, arrows go up and down the weights; Alt with an arrow moves the line, with 1 or 2 takes a remedy. */
    keys(event) {
      const line = event.target instanceof Element ? event.target.closest('.line') : null;
      if (!line) return;
      const press = (selector) => {
        const button = line.querySelector(selector);
        if (button && !button.disabled) { event.preventDefault(); button.click(); }
      };
      if (event.altKey && event.key === 'ArrowUp') press('button[value^="up:"]');
      else if (event.altKey && event.key === 'ArrowDown') press('button[value^="down:"]');
      else if (event.altKey && (event.key === '1' || event.key === '2')) {
        const remedies = line.querySelectorAll('[data-remedy]');
        const chosen = remedies[Number(event.key) - 1];
        if (chosen) { event.preventDefault(); chosen.click(); }
      } else if (event.target instanceof HTMLInputElement) {
        const weight = event.target.name.endsWith('[grams]');
        const field = (other) => other?.querySelector(`input[name$="[${weight ? 'grams' : 'ingredient'}]"]`);
        const to = (other) => { event.preventDefault(); field(other)?.select(); };
        if (event.key === 'Enter') {
          event.preventDefault();
          const next = field(line.nextElementSibling);
          if (next) next.focus(); else this.$root.querySelector('button[value="add"]')?.click();
        // In the name of an ingredient the arrows belong to the list of names.
        } else if (weight && event.key === 'ArrowDown') to(line.nextElementSibling);
        else if (weight && event.key === 'ArrowUp') to(line.previousElementSibling);
      }
    },
  }));

  /** A form whose answer follows each choice; without script its button does. */
  Alpine.data('follow', () => ({
    changed() { this.$root.requestSubmit(); },
  }));

  /** The plan: the hour it is ready follows the hand, by handle, arrow keys or buttons; the server finds the plans. */
  Alpine.data('plan', () => ({
    busy: false,
    next: null,
    root: null,
    send: null,
    init() {
      // Taken here: what the hand took hold of is replaced while it moves, and with it what belongs to it.
      [this.root, this.send] = [this.$root, this.$ajax];
      this.root.classList.add('live');
      // The answer knows what was meant by what was typed.
      this.root.addEventListener('ajax:merged', (e) => {
        const field = this.field();
        if (field && !field.dataset.at && e.target.id === 'answer') field.dataset.at = e.target.dataset.ready;
      });
    },
    asked() { this.root.querySelector('#wish').requestSubmit(); },
    field() { return this.root.querySelector('#ready'); },
    /** The hour that is wanted, as the field stands for it; nothing while what was typed is not read. */
    at() { return this.field()?.dataset.at || ''; },
    /** Minutes of the day are civil time here: the field's own. */
    moved(from, minutes) {
      const at = new Date(`${from}:00Z`);
      at.setTime(at.getTime() + Math.round(minutes / 5) * 300_000);
      return at.toISOString().slice(0, 16);
    },
    show(value) {
      const field = this.field();
      if (!field || this.at() === value) return;
      put(field, value);
      // An hour that is taken hold of is wanted: no longer as soon as it can be.
      const soon = this.root.querySelector('#want-soon');
      if (soon?.checked) this.root.querySelector('#want-').checked = true;
      const slide = this.root.querySelector('.slide');
      slide?.setAttribute('aria-valuetext', field.value);
      slide?.setAttribute('aria-valuenow', String(Number(value.slice(11, 13)) * 60 + Number(value.slice(14))));
      this.next = value;
      this.ask();
    },
    /** One question at a time; the newest hour is asked for when the answer is there. */
    async ask() {
      if (this.busy || this.next === null) return;
      this.busy = true;
      this.next = null;
      const form = this.root.querySelector('#wish');
      const query = new URLSearchParams(new FormData(form)).toString();
      try {
        await this.send(`/plan?${query}`, { targets: ['answer', 'ways', 'wants'], focus: false });
      } finally {
        this.busy = false;
        this.ask();
      }
    },
    step(minutes) { if (this.at()) this.show(this.moved(this.at(), minutes)); },
    pressed(event) {
      if (!(event.target instanceof Element) || !event.target.closest('.slide')) return;
      const by = { ArrowLeft: -15, ArrowDown: -15, ArrowRight: 15, ArrowUp: 15, PageDown: -60, PageUp: 60 }[event.key];
      if (by === undefined) return;
      event.preventDefault();
      this.step(by);
    },
    grab(event) {
      const handle = event.target instanceof Element ? event.target.closest('.k-ready') : null;
      if (!handle || !this.at()) return;
      event.preventDefault();
      const svg = handle.ownerSVGElement;
      // Screen pixels to the drawing's, and those to minutes, as they are when the hand takes hold.
      const per = Number(handle.dataset.perPx) * svg.viewBox.baseVal.width / svg.getBoundingClientRect().width;
      const [x, from] = [event.clientX, this.at()];
      const move = (e) => this.show(this.moved(from, (e.clientX - x) * per));
      const drop = () => {
        document.removeEventListener('pointermove', move);
        document.removeEventListener('pointerup', drop);
        document.removeEventListener('pointercancel', drop);
      };
      document.addEventListener('pointermove', move);
      document.addEventListener('pointerup', drop);
      document.addEventListener('pointercancel', drop);
    },
  }));

  /** A bath: seconds counted up, said once when the side may be turned and once when it must come out. */
  Alpine.data('bath', () => ({
    init() { this.$root.hidden = false; },
    start() {
      clearInterval(this.timer);
      const { turn, out } = this.$root.dataset;
      const from = Date.now();
      const { run, say } = this.$refs;
      const tick = () => {
        const seconds = Math.floor((Date.now() - from) / 1000);
        run.textContent = `${seconds} s`;
        if (seconds >= Number(out)) {
          say.textContent = `${out} s: out of the bath.`;
          clearInterval(this.timer);
          navigator.vibrate?.(400);
        } else if (seconds >= Number(turn) && !say.textContent) {
          say.textContent = `From ${turn} s: turn it, or lift it out.`;
          navigator.vibrate?.(200);
        }
      };
      say.textContent = '';
      tick();
      this.timer = setInterval(tick, 250);
    },
    destroy() { clearInterval(this.timer); },
  }));

  /** Bake day: the clock by the server's time, the space bar for the main act. */
  Alpine.data('bakeday', () => ({
    init() {
      const offset = Number(this.$root.dataset.now) - Date.now();
      const zone = Number(this.$root.dataset.zone) * 60_000;
      const cells = this.$root.querySelectorAll('.clock i');
      const half = this.$root.querySelector('.clock small');
      const above = document.querySelector('.nowclock');
      // The hour as it is shown; where the clock has twelve hours, the half of the day stands behind it.
      const face = () => {
        const [hour, minute] = new Date(Date.now() + offset + zone).toISOString().slice(11, 16).split(':');
        if (!half && above?.dataset.twelve === undefined) return [hour, minute, ''];
        return [String(Number(hour) % 12 || 12), minute, Number(hour) < 12 ? 'am' : 'pm'];
      };
      const write = (cell, text) => { if (cell.textContent !== text) cell.textContent = text; };
      const show = () => {
        const [hour, minute, noon] = face();
        [...hour.padStart(2) + minute].forEach((digit, i) => { if (cells[i]) write(cells[i], digit.trim()); });
        if (half) half.textContent = noon;
      };
      // Work that runs by minutes: its time in the clock's place, the clock above it, the ruler filling.
      const runs = this.$root.querySelector('.runs');
      const gone = this.$root.querySelector('.ruler .gone');
      const count = () => {
        const seconds = Math.max(0, Math.floor((Date.now() + offset - Number(runs.dataset.since)) / 1000));
        const digits = `${Math.floor(seconds / 60)}${String(seconds % 60).padStart(2, '0')}`;
        // Another digit stands in front from ten minutes on.
        while (runs.querySelectorAll('i').length < digits.length) runs.prepend(document.createElement('i'));
        runs.querySelectorAll('i').forEach((cell, i) => write(cell, digits[i]));
        // Past its end the ruler is full.
        const full = gone.ownerSVGElement.viewBox.baseVal.width - 2;
        gone.setAttribute('width', String(Math.min(full, (seconds / 60) * Number(gone.dataset.per))));
        const [hour, minute, noon] = face();
        write(above, `${hour}:${minute} ${noon}`.trim());
      };
      const tick = runs ? count : show;
      tick();
      this.timer = setInterval(tick, 1000);
      this.pressed = (e) => {
        if (silent(e)) return;
        const on = document.activeElement;
        if (e.key === ' ' && (!on || on === document.body || on.id === 'main')) {
          e.preventDefault();
          document.querySelector('[data-key="main"]')?.click();
        } else if (e.key === 'n') document.querySelector('[data-key="n"]')?.click();
      };
      document.addEventListener('keydown', this.pressed);
      navigator.wakeLock?.request('screen').catch(() => {});
    },
    destroy() {
      clearInterval(this.timer);
      document.removeEventListener('keydown', this.pressed);
    },
  }));
});
