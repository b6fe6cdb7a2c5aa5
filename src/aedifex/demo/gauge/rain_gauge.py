# rain gauge -- writes up what the gauge on the quay has caught
# type millimetres (12.5), dry, dew, empty, week, sum or quit


def main():
    # --- the record
    record_days = 0
    record_total = 0.0
    record_wettest = 0.0
    record_dry = 0
    record_longest = 0
    record_week = []

    # --- the glass
    glass_level = 0.0
    glass_spilled = 0.0
    glass_emptied = 0

    mistakes = 0

    print("The rain gauge on the quay. Type quit to leave.")
    while True:
        try:
            answer = input("mm> ").strip().lower()
        except EOFError:
            break
        if not answer:
            continue
        # --- what was typed
        if answer == "quit":
            break
        elif answer == "dry":
            record_days += 1
            record_dry += 1
            record_longest = max(record_longest, record_dry)
            record_week = record_week[-6:] + [0.0]
        elif answer == "dew":
            glass_level += 0.1
        elif answer == "empty":
            glass_level = 0.0
            glass_emptied += 1
        elif answer == "week":
            for number, caught in enumerate(record_week, 1):
                print(f"  {number}: " + "#" * int(caught) + f" {caught:.1f}")
            continue
        elif answer == "sum":
            print(f"{record_total:.1f} mm in {record_days} days, most {record_wettest:.1f}")
            continue
        else:
            try:
                rain = float(answer)
            except ValueError:
                mistakes += 1
                print(f"the gauge does not know {answer!r}")
                continue
            if rain < 0 or rain > 200:
                mistakes += 1
                print("that is no rain from this sky")
                continue
            record_days += 1
            record_total += rain
            record_wettest = max(record_wettest, rain)
            record_dry = 0
            record_week = record_week[-6:] + [rain]
            # the glass holds forty millimetres
            glass_level += rain
            if glass_level > 40:
                glass_spilled += glass_level - 40
                glass_level = 40.0
        print(f"day {record_days}: glass {glass_level:.1f} mm, spilled {glass_spilled:.1f}")

    mean = record_total / record_days if record_days else 0.0
    print(f"{record_days} days, {record_total:.1f} mm, {mean:.2f} a day, longest dry {record_longest}")
    print(f"{glass_spilled:.1f} mm spilled, emptied {glass_emptied} times, {mistakes} mistakes")


if __name__ == "__main__":
    main()
