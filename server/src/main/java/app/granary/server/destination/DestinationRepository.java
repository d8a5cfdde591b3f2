package app.granary.server.destination;

import org.springframework.data.jpa.repository.JpaRepository;

interface DestinationRepository extends JpaRepository<KnownDestination, String> {
}
