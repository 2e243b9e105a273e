"""Coming back: odometer readings, rechecks, the calendar that tells of them, and stops on the road."""
