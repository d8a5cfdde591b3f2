/** How values that are no plain column are written into one. */
package app.granary.server.column;
