package app.granary.server.today;

/**
 * Something that needs a person.
 *
 * @param kind   what it is about, as a word
 * @param title  the same for people
 * @param reason why, and what to do
 * @param to     the page that tells more
 * @param verb   what can be done about it from here, as a word; an empty string when it is done on that page
 * @param label  the same for people
 * @param subject what it is done with: identities, joined by commas
 */
record Todo(String kind, String title, String reason, String to, String verb, String label, String subject) {
    static Todo there(String kind, String title, String reason, String to) {
        return new Todo(kind, title, reason, to, "", "", "");
    }
}
