package app.granary.server.destination;

import app.granary.core.destination.PlaceKind;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import java.time.Instant;

/** That a destination was taken somewhere, by whom. Moves are added, never changed. */
@Entity
class PlaceMove {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    private Long id;
    private String destinationId;
    private Instant at;
    private String account;
    @Enumerated(EnumType.STRING)
    private PlaceKind placeKind;
    private String place;

    protected PlaceMove() {
    }

    PlaceMove(String destinationId, Instant at, String account, PlaceKind placeKind, String place) {
        this.destinationId = destinationId;
        this.at = at;
        this.account = account;
        this.placeKind = placeKind;
        this.place = place;
    }

    Instant at() {
        return at;
    }

    String account() {
        return account;
    }

    String words() {
        return placeKind.words(place);
    }
}
