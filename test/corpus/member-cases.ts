/** Plugins: members that one script gives to what another one makes, before, after or not at all. */
import type { OrderCase } from './load-order-cases.ts';

const base = `(function (root) {
  var jQuery = function (selector) { return new jQuery.fn.init(selector); };
  jQuery.fn = jQuery.prototype = {
    init: function () {},
    show: function () { return this; },
    find: function () { return this; },
    ready: function (done) { document.addEventListener("DOMContentLoaded", done); return this; }
  };
  jQuery.fn.init.prototype = jQuery.fn;
  jQuery.extend = jQuery.fn.extend = function (more) { for (var key in more) this[key] = more[key]; return this; };
  root.jQuery = root.$ = jQuery;
})(window);`;
const wrapped = (body: string) =>
  `(function (factory) { if (typeof define === "function" && define.amd) define(["jquery"], factory); else factory(jQuery); })(function ($) { ${body} });`;
const files = {
  'base.js': base,
  'tides.js': wrapped('$.fn.tides = function () { return this; };'),
  'piers.js': '$.fn.extend({ piers: function () { return this; } }); jQuery.pier = function () {};',
  'map.js': 'var L = { map: function () { return {}; } };',
  'cluster.js':
    '(function () { L.Cluster = function () {}; L.cluster = function () { return new L.Cluster(); }; })();',
  'more.js': 'Object.assign(L, { more: function () {} });',
};

const use = (code: string) => `<script>\n${code}\n</script>\n`;
const load = (...names: string[]) => names.map((name) => `<script src="${name}.js"></script>\n`).join('');

const rows: readonly (readonly [about: string, markup: string])[] = [
  ['in order', load('base', 'tides') + use('$("p").tides().show();')],
  ['used before', load('base') + use('$("p").tides();') + load('tides')],
  ['left out', load('base') + use('$("p").tides();')],
  ['left out, after others of the same object', load('base') + use('$("p").show().find("b").tides();')],
  [
    'left out, in a ready callback',
    load('base') + use('jQuery(document).ready(function () {\njQuery("p").tides();\n});'),
  ],
  [
    'used before, and ready after all',
    load('base') + use('$(document).ready(function () { $("p").tides(); });') + load('tides'),
  ],
  ['by extend', load('base', 'piers') + use('$("p").piers(); $.pier();')],
  ['by extend, left out', load('base') + use('$("p").piers();')],
  ['of the library itself, left out', load('base') + use('$.pier();')],
  ['nobody is known to add it', load('base') + use('if (0) $("p").none(); $("p").show();')],
  ['with a guard', load('base') + use('if ($.fn.tides) $("p").tides();')],
  ['caught', load('base') + use('try { $("p").tides(); } catch (error) {}')],
  ['one that uses what it adds', load('base', 'tides') + use('$.fn.own = function () {}; $("p").own();')],
  ['of a plain object', load('map', 'cluster') + use('L.cluster(); new L.Cluster(); L.map();')],
  ['of a plain object, used before', load('map') + use('L.cluster();') + load('cluster')],
  ['a class of a plain object, left out', load('map') + use('new L.Cluster();')],
  ['assigned, left out', load('map') + use('L.more();')],
  ['assigned', load('map', 'more') + use('L.more();')],
  ['the library is left out', use('$("p").tides();') + load('tides')],
  [
    'deferred behind its use',
    `${load('base')}<script src="tides.js" defer></script>${use('$("p").tides();')}`,
  ],
];

export const memberCases: readonly OrderCase[] = rows.map(([about, markup]) => ({
  about: `a member: ${about}`,
  markup,
  files,
}));
