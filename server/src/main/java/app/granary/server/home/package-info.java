/** The folder Granary keeps its data in: what lies there, who may read it, and why a start on it is refused. */
package app.granary.server.home;
