package app.granary.agent;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.target.TargetDisk;
import app.granary.engine.line.Message;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ConfirmingTest {
    private static TargetDisk disk(String id, String serial) {
        return new TargetDisk(id, "/dev/" + id, new DiskIdentity("Aldine N1", serial, 512_000_000_000L), 512, "sata", TargetDisk.Kind.FIXED,
            true, false, "", List.of(), List.of(), 1);
    }

    /** < is the key that deletes, ! the one that leaves, $ Enter. */
    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '\0', value = {"0198$ | sda | may be overwritten once, within 15 minutes",
        "01<<0198$ | sda | may be overwritten once", "ab7k$ | sdb | may be overwritten once", "9999$ | | No disk here ends in \"9999\"",
        "0198! | | Nothing was confirmed", "0177$ | | Two disks here end in that", "$ | | No disk here ends in",
        "0198 | | Enter: 0198", "012345678901234567890$ | | No disk here ends in \"01234567\""})
    void onlyTheDiskWhoseSerialIsTypedIsConfirmed(String keys, String confirmed, String said) {
        List<TargetDisk> all = List.of(disk("sda", "7K-0198"), disk("sdb", "X-AB7K"), disk("sdc", "1-0177"), disk("sdd", "2-0177"));
        List<Message.Typed> told = new ArrayList<>();
        Confirming confirming = new Confirming();
        for (char key : keys.strip().toCharArray()) {
            confirming.pressed(key == '<' ? (char) 127 : key == '!' ? (char) 27 : key == '$' ? '\r' : key, all, told::add);
        }
        assertTrue(confirming.said().contains(said.strip()), confirming.said());
        assertEquals(confirmed == null ? List.of() : List.of(confirmed.strip()), told.stream().map(Message.Typed::targetId).toList());
        Confirming unheard = new Confirming();
        "0198\n".chars().forEach(key -> unheard.pressed((char) key, all, none -> false));
        assertTrue(unheard.ended() && unheard.said().contains("cannot be reached now"), unheard.said());
    }
}
