"""Django: one app for each noun, thin over the core.

settings, urls, the list of routers, how it is served; everything else in an app.
"""
