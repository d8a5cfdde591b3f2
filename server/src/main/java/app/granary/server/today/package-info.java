/** What needs a person today, in order, and how well the office is covered. */
package app.granary.server.today;
