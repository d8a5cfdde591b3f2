/** If it dies today: a card per computer, all of them as a booklet, and as a plain file on every destination. */
package app.granary.server.card;
