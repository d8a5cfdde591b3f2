package app.granary.server.today;

import app.granary.core.today.Todo;

/**
 * Something that needs a person, as the page shows it.
 *
 * @param kind    what it is about, as a word
 * @param title   the same for people
 * @param reason  why, and what to do
 * @param to      the page that tells more
 * @param verb    what can be done about it from here, as a word; an empty string when it is done on that page
 * @param label   the same for people
 * @param subject what it is done with: identities, joined by commas
 */
record TodoLine(String kind, String title, String reason, String to, String verb, String label, String subject) {
    static TodoLine from(Todo todo) {
        return new TodoLine(todo.kind().word(), todo.title(), todo.reason(), page(todo), todo.deed().word(), todo.label(),
            String.join(",", todo.with()));
    }

    private static String page(Todo todo) {
        return switch (todo.kind()) {
            case JOURNAL -> "/journal";
            case RESTORE -> "/restore";
            case DAMAGED -> "/images/" + todo.about();
            case MISSING, UNPROVEN -> "/images";
            case UNKNOWN -> "/images/elsewhere";
            case TRASH, PLACE, ROTATION, PLACES -> "/destinations";
            case NEVER, FILES -> "/computers/" + todo.about();
            case UNFINISHED, WAITING, FAILED -> "/runs";
            case SILENT -> "/computers";
            case OVERDUE -> "/night";
            case RELEASE -> "/retention";
            case MEDIUM -> "/rescue-media";
            case COPY -> "/settings";
        };
    }
}
