/** What one needs when a computer is dead this morning: which image, from where, with which key, in what order. Pure; nothing is null. */
package app.granary.core.card;
