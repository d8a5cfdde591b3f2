/** What is printed and stuck on things. */
package app.granary.server.label;
