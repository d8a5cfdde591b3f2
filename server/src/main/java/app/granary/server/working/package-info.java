/** How a figure came about, for the margin. */
package app.granary.server.working;
