package app.granary.server.image;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.contains;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.Shelf;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.transaction.support.TransactionOperations;

/** An image's record follows it on its drive, whatever comes in between. */
class MovesTest {
    private final Images images = mock(Images.class);
    private final CopyRepository copies = mock(CopyRepository.class);
    private final ImageStore store = mock(ImageStore.class);
    private final Shelf shelf = mock(Shelf.class);
    private final Uses uses = mock(Uses.class);
    private final Journal journal = mock(Journal.class);
    private final Moves moves = new Moves(images, copies, store, List.of(uses), journal, TransactionOperations.withoutTransaction());
    private final Copy copy = Copy.first(Image.found(Image.Origin.FOUND, "night", new Images.Of("DATUM", "d", "disk 1", "S-1"),
        Instant.EPOCH, "ada"), "peg", "PEG-1");

    private static ImageAt at(String folder, String name) {
        return new ImageAt("peg", folder, name, Passphrase.NONE);
    }

    @BeforeEach
    void oneImage() throws IOException {
        when(images.one(copy.id())).thenReturn(copy);
        when(store.shelf("peg")).thenReturn(shelf);
        when(copies.ofImage(any())).thenReturn(List.of(copy));
        when(copies.moving()).thenReturn(List.of(copy));
        when(uses.now()).thenReturn(Map.of());
    }

    @Test
    void itLiesThereUnderItsNewNameAndTheJournalTells() throws IOException {
        when(shelf.lies(at("offsite", "spring"))).thenReturn(true);
        moves.move(copy.id(), "/offsite/", "spring", "ada");
        verify(shelf).move(at("", "night"), at("offsite", "spring"));
        assertEquals("offsite spring ", copy.folder() + " " + copy.image().name() + " " + copy.movingTo());
        verify(journal).add(eq("ada"), eq("move"), eq("DATUM disk 1"), eq(Journal.Result.DONE), contains("offsite on PEG-1 now, as spring"),
            any());
    }

    /** A kill before the drive moved it, or after that and before it was recorded: the drive tells. A drive that is away tells later. */
    @Test
    void afterAKillTheDriveTellsWhereItIs() throws IOException {
        copy.movingTo("offsite|night");
        when(store.shelf("peg")).thenThrow(Fault.of(Fault.Kind.NOT_RECOGNISED, "peg", "It is not attached.").asException());
        moves.look();
        assertEquals("offsite|night", copy.movingTo());
        org.mockito.Mockito.reset(store);
        when(store.shelf("peg")).thenReturn(shelf);
        moves.look();
        assertEquals("offsite|night", copy.movingTo(), "it lies at neither: a person is told by what looks after drives");
        when(shelf.lies(at("", "night"))).thenReturn(true);
        moves.look();
        assertEquals("|", copy.folder() + "|" + copy.movingTo());
        copy.movingTo("offsite|night");
        when(shelf.lies(at("offsite", "night"))).thenReturn(true);
        moves.look();
        assertEquals("offsite|", copy.folder() + "|" + copy.movingTo());
    }

    @Test
    void whatCannotBeMovedStaysWhereItIs() throws IOException {
        doThrow(Fault.of(Fault.Kind.BAD_CHOICE, "x", "Something lies there already.").asException()).when(shelf).move(any(), any());
        when(shelf.lies(at("", "night"))).thenReturn(true);
        assertThrows(FaultException.class, () -> moves.move(copy.id(), "offsite", "night", "ada"));
        assertEquals("|night|", copy.folder() + "|" + copy.image().name() + "|" + copy.movingTo());
        assertTrue(assertThrows(Refused.class, () -> moves.move(copy.id(), "", "night",
            "ada")).getMessage().contains("lies there already"));
        assertThrows(FaultException.class, () -> moves.move(copy.id(), "../x", "night", "ada"));
        when(uses.now()).thenReturn(Map.of(copy.id(), Set.of("it is being checked")));
        assertTrue(assertThrows(Refused.class, () -> moves.move(copy.id(), "a", "night", "ada")).getMessage().contains("being checked"));
        when(uses.now()).thenReturn(Map.of());
        when(copies.ofImage(any())).thenReturn(List.of(copy, copy.on("cairn", "CAIRN", "ada")));
        assertTrue(assertThrows(Refused.class, () -> moves.move(copy.id(), "", "other",
            "ada")).getMessage().contains("all copies share one name"));
        verify(journal, never()).add(any(), any(), any(), any(), any(), any());
    }
}
