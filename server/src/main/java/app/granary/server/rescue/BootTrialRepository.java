package app.granary.server.rescue;

import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface BootTrialRepository extends JpaRepository<BootTrial, UUID> {
}
