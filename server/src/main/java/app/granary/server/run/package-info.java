/** Work under way and done: captures and checks. */
package app.granary.server.run;
