from django.contrib import admin

from ports.models import Controllers

admin.site.register(Controllers)
