"""Mutation testing of the core: whether a test fails when the code is made wrong.

A place in the code is changed (a number, a comparison, a sign), and the tests that run the
changed line are run. A change that no test notices is a missing test, or changes nothing.
"""
