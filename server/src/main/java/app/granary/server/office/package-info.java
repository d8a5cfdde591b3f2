/** The office as a whole. */
package app.granary.server.office;
