// The page is shown with its own letters, so that nothing moves when they come; should they be late, with others.
const LATE_MS = 600;
const upright = ['Besley Variable', 'Atkinson Hyperlegible Next Variable'].map((family) => document.fonts.load(`1em "${family}"`));
const show = () => document.documentElement.classList.remove('waiting');
document.documentElement.classList.add('waiting');
Promise.all(upright).then(show, show);
setTimeout(show, LATE_MS);
