"""Reading and writing quantities as makers type and read them."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.errors import NotUnderstoodError
from orvek.quantities import Dimension, Units, read, read_bit, write, write_bit, write_sizes
from orvek.quantities.units import BAR_PER_PSI, MM_PER_INCH

D = Dimension


@pytest.mark.parametrize(
    ("text", "dimension", "value"),
    [
        ("19/64", D.LENGTH, 7.540625),
        ("1 1/2 in", D.LENGTH, 38.1),
        ("1-1/2", D.LENGTH, 38.1),
        ("1½", D.LENGTH, 38.1),
        ("9.7mm", D.LENGTH, 9.7),
        ("9,7", D.LENGTH, 9.7),
        ('3/8"', D.LENGTH, 9.525),
        ('0.41"', D.LENGTH, 10.414),
        ("1 ft 2 in", D.LENGTH, 355.6),
        ("13 cm", D.LENGTH, 130),
        ("-4 mm", D.LENGTH, -4),
        ("75F", D.TEMPERATURE, 23.88889),
        ("24 °C", D.TEMPERATURE, 24),
        ("24", D.TEMPERATURE, 24),
        ("60 psi", D.PRESSURE, 4.136854),
        ("300 kPa", D.PRESSURE, 3),
        ("2 h 30", D.DURATION, 150),
        ("2h30min", D.DURATION, 150),
        ("1:30", D.DURATION, 90),
        ("90 s", D.DURATION, 1.5),
        ("1.5%", D.PERCENT, 1.5),
        ("1,5 %", D.PERCENT, 1.5),
        ("15 %", D.FRACTION, 0.15),
        ("0.15", D.FRACTION, 0.15),
        ("1,234.5 g", D.MASS, 1234.5),
        ("1.234,5 g", D.MASS, 1234.5),
        ("2 kg", D.MASS, 2000),
        ("1.5 oz", D.MASS, 42.52428),
        ("8 fl oz", D.VOLUME, 236.588),
        ("1.09 g/cm3", D.DENSITY, 1.09),
        ("€24,50", D.PRICE, 24.5),
        ("22.5°", D.ANGLE, 22.5),
        ("12", D.COUNT, 12),
    ],
)
def test_what_makers_type(text: str, dimension: Dimension, value: float) -> None:
    assert read(text, dimension) == pytest.approx(value, rel=1e-6)


@pytest.mark.parametrize(
    ("text", "dimension"),
    [
        ("", D.LENGTH),
        ("   ", D.MASS),
        ("abc", D.LENGTH),
        ("7 mm mm", D.LENGTH),
        ("1 2", D.LENGTH),
        ("1/0", D.LENGTH),
        ("3 kg", D.LENGTH),
        ("20 mm", D.MASS),
        ("1.2.3", D.LENGTH),
        ("nan", D.MASS),
        ("inf", D.MASS),
        ("9" * 400, D.MASS),
        ("5.5", D.COUNT),
        ("10 %", D.MASS),
        ("__import__('os')", D.LENGTH),
        ("1 mm; drop", D.LENGTH),
    ],
)
def test_nonsense_gets_a_sentence(text: str, dimension: Dimension) -> None:
    with pytest.raises(NotUnderstoodError, match="is not a"):
        read(text, dimension)


def test_a_bare_number_is_in_the_unit_the_maker_prefers() -> None:
    inches = Units(length="inch decimal", temperature="°F", pressure="psi")
    assert read("0.5", D.LENGTH, inches) == pytest.approx(12.7)
    assert read("12 mm", D.LENGTH, inches) == pytest.approx(12)
    assert read("68", D.TEMPERATURE, inches) == pytest.approx(20)
    assert read("40", D.PRESSURE, inches) == pytest.approx(40 * BAR_PER_PSI)


@given(st.text(max_size=30), st.sampled_from(list(Dimension)))
def test_any_text_is_a_number_or_a_sentence(text: str, dimension: Dimension) -> None:
    try:
        value = read(text, dimension)
    except NotUnderstoodError:
        return
    assert abs(value) <= 1e12


@given(st.text("0123456789/.,- \"'mincftgk°FC%hs½", max_size=14), st.sampled_from(list(Dimension)))
def test_text_that_is_nearly_a_quantity_never_breaks_the_reader(text: str, dimension: Dimension) -> None:
    said = "."
    try:
        read(text, dimension)
    except NotUnderstoodError as error:
        said = str(error)
    assert said.endswith(".")


@given(st.floats(0.5, 900))
def test_an_inch_fraction_is_written_to_the_nearest_64th(value_mm: float) -> None:
    written = write(value_mm, D.LENGTH, Units(length="inch fraction"))
    assert abs(read(written, D.LENGTH) - value_mm) <= MM_PER_INCH / 128 + 1e-9


@given(
    st.sampled_from([D.LENGTH, D.MASS, D.VOLUME, D.TEMPERATURE, D.PRESSURE, D.DENSITY, D.PERCENT]), st.floats(0.1, 500)
)
def test_what_is_written_reads_back_to_its_digits(dimension: Dimension, value: float) -> None:
    assert read(write(value, dimension, digits=3), dimension) == pytest.approx(value, abs=0.0006)


@pytest.mark.parametrize(
    ("value", "dimension", "units", "words"),
    [
        (18.4, D.LENGTH, Units(), "18.4 mm"),
        (38.1, D.LENGTH, Units(length="inch fraction"), "1 1/2 in"),
        (50.8, D.LENGTH, Units(length="inch fraction"), "2 in"),
        (0.1, D.LENGTH, Units(length="inch fraction"), "0.004 in"),
        (9.525, D.LENGTH, Units(length="inch decimal"), "0.375 in"),
        (21, D.TEMPERATURE, Units(temperature="°F"), "70 °F"),
        (4.1369, D.PRESSURE, Units(pressure="psi"), "60 psi"),
        (150, D.DURATION, Units(), "2 h 30 min"),
        (120, D.DURATION, Units(), "2 h"),
        (1.25, D.DURATION, Units(), "1 min 15 s"),
        (-0.04, D.MASS, Units(), "0.0 g"),
        (1.5, D.PERCENT, Units(), "1.5 %"),
        (12.5, D.MONEY, Units(currency="£"), "£12.50"),
        (-29.556, D.MONEY, Units(), "−€29.56"),
        (float("nan"), D.MASS, Units(), "–"),
    ],
)
def test_what_makers_read(value: float, dimension: Dimension, units: Units, words: str) -> None:
    assert write(value, dimension, units) == words


def test_bits_by_letter_and_number() -> None:
    by_name = Units(bit_names=True)
    assert read_bit("letter J") == pytest.approx(7.0358)
    assert read_bit("U") == pytest.approx(9.347, abs=0.001)
    assert read_bit("#30") == pytest.approx(3.2639)
    assert read_bit("25/64") == pytest.approx(9.921875)
    assert write_bit(7.0358, by_name) == "letter J"
    assert write_bit(7.0358) == "7.04 mm"
    assert write_bit(7.1, by_name) == "7.10 mm"
    with pytest.raises(NotUnderstoodError):
        read_bit("#99")


def test_sizes_name_their_unit_once() -> None:
    assert write_sizes((20, 20, 132.5)) == "20 × 20 × 132.5 mm"
    assert write_sizes((19.05, 127), Units(length="inch fraction")) == "3/4 × 5 in"


@pytest.mark.parametrize(
    ("typed", "hours"),
    [
        ("18:30", 18.5),
        ("18.5", 18.5),
        ("6 pm", 18),
        ("6:15pm", 18.25),
        ("7", 7),
        ("18 h", 18),
        ("0:05", 5 / 60),
        ("12 am", 0),
    ],
)
def test_a_time_of_day_is_read(typed: str, hours: float) -> None:
    assert read(typed, Dimension.CLOCK) == pytest.approx(hours)


@pytest.mark.parametrize("typed", ["banana", "25:00", "18:75", "", "noon", "-3"])
def test_no_time_of_day_is_refused(typed: str) -> None:
    with pytest.raises(NotUnderstoodError, match="a time of day like 18:30"):
        read(typed, Dimension.CLOCK)


@pytest.mark.parametrize(("hours", "written"), [(18.5, "18:30"), (0, "00:00"), (7.999, "08:00")])
def test_a_time_of_day_is_written(hours: float, written: str) -> None:
    assert write(hours, Dimension.CLOCK) == written
