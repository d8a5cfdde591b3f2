package app.granary.server.office;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;

/** What the office chose for all. There is one row. */
@Entity
@Table(name = "office_choices")
class OfficeRow {
    static final int ONLY = 1;
    static final int USUAL_TRASH_DAYS = 14;

    @Id
    private int id = ONLY;
    private String name = "";
    private String units = "decimal";
    private String keeping = "";
    private int trashDays = USUAL_TRASH_DAYS;
    private String copiesTo = "";
    private String mailTo = "";
    private String folder = "";
    private boolean firstDayLeft;
    @Version
    private long version;

    void choose(String newName, String newUnits, String newKeeping, int days, String copies, String mail,
        String folders) {
        name = newName;
        units = newUnits;
        keeping = newKeeping;
        trashDays = days;
        copiesTo = copies;
        mailTo = mail;
        folder = folders;
    }

    String name() {
        return name;
    }

    String units() {
        return units;
    }

    /** JSON; an empty string for the usual. */
    String keeping() {
        return keeping;
    }

    int trashDays() {
        return trashDays;
    }

    String copiesTo() {
        return copiesTo;
    }

    String mailTo() {
        return mailTo;
    }

    boolean firstDayLeft() {
        return firstDayLeft;
    }

    void leaveFirstDay(boolean left) {
        firstDayLeft = left;
    }

    /** A folder pattern; an empty string for Granary's own folder. */
    String folder() {
        return folder;
    }

    long version() {
        return version;
    }
}
