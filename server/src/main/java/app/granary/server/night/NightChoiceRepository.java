package app.granary.server.night;

import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface NightChoiceRepository extends JpaRepository<NightChoice, UUID> {
    List<NightChoice> findByNight(LocalDate night);

    Optional<NightChoice> findByNightAndPlanId(LocalDate night, UUID planId);
}
