package app.granary.server.computer;

import static org.junit.jupiter.api.Assertions.assertEquals;

import org.junit.jupiter.api.Test;

class ChangesTest {
    private static ComputerForm form(String owner, Boolean secureBoot) {
        return new ComputerForm("PLUMB", "front desk", owner, "", "", "uefi", "", secureBoot, "", "none", "unknown", "", "", "");
    }

    @Test
    void theJournalNamesEachFieldBeforeAndAfter() {
        assertEquals("owner was \"Nell\", is empty; secure boot was empty, is \"on\".",
            Changes.sentence(Changes.fields(form("Nell", null)), Changes.fields(form("", true))));
        assertEquals("saved without a change.", Changes.sentence(Changes.fields(form("Nell", false)), Changes.fields(form("Nell", false))));
    }
}
